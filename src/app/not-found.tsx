import { AppLink } from '@/ui/kit/AppLink';

export default function NotFound() {
  return (
    <main id="main" className="mx-auto max-w-lg px-5 py-14">
      <h1 className="text-3xl">Nothing stands here</h1>
      <p className="mt-3 font-serif text-lg">The address names something that is not there, or no longer.</p>
      <AppLink href="/" className="inline-link mt-4 inline-block">
        To the ledger
      </AppLink>
    </main>
  );
}
