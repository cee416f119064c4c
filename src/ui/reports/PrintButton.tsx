'use client';

/** Opens the print dialog, from which a PDF is saved too. */
export function PrintButton() {
  return (
    <button type="button" className="inline-link" onClick={() => window.print()}>
      Print
    </button>
  );
}
