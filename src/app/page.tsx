import { redirect } from 'next/navigation';
import { database } from '@/store/database';
import { listSites } from '@/store/sites';
import { routes } from '@/ui/shell/routes';

export const dynamic = 'force-dynamic';

/** Opens the first site, or asks for one. */
export default function Home() {
  const first = listSites(database())[0];
  redirect(first ? routes.desk(first.id) : routes.newSite());
}
