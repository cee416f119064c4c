/** The mark: four uprights and a slash. */
export function TallyMark({ className }: { className?: string }) {
  return (
    <svg
      viewBox="0 0 30 24"
      className={className}
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth="2.2"
    >
      <path d="M6 3v18M12 3v18M18 3v18M24 3v18M2 18 28 6" strokeLinecap="round" />
    </svg>
  );
}
