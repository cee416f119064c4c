import Link from 'next/link';

export default function NotFound() {
  return (
    <main id="main" className="mx-auto max-w-lg px-5 py-14">
      <h1 className="text-3xl">Nothing stands here</h1>
      <p className="mt-3 font-serif text-lg">The address names something that is not there, or no longer.</p>
      <Link href="/" prefetch={false} className="inline-link mt-4 inline-block">
        To the ledger
      </Link>
    </main>
  );
}
