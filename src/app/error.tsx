'use client';

/** What is shown when the program itself fails: what was stored is safe, since every write is all or nothing. */
export default function Failure({ reset }: { error: Error; reset: () => void }) {
  return (
    <main id="main" className="mx-auto max-w-lg px-5 py-14">
      <h1 className="text-3xl">Something went wrong in the program</h1>
      <p className="mt-3 font-serif text-lg">
        What was stored before is safe. The log of the server says more.
      </p>
      <button type="button" className="btn btn-primary btn-sm mt-4" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
