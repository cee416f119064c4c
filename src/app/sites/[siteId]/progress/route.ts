import { underWay } from '@/jobs/questions/ask';
import { siteFromPath } from '../site';

/** What the screens of a site wait for, and how far it has come. */
export async function GET(_request: Request, { params }: { params: Promise<{ siteId: string }> }) {
  const { site } = siteFromPath((await params).siteId);
  return Response.json(underWay(site.id), { headers: { 'cache-control': 'no-store' } });
}
