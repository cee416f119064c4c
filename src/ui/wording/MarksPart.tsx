import { TITLE_MARK_NAMES, TITLE_MARKS, type TitleMark } from '@/core/wording/marks';

type Props = { marks: Readonly<Record<TitleMark, { readonly results: number; readonly own: boolean }>> };

/** Which marks the other results use, and whether one's own text does. */
export function MarksPart({ marks }: Props) {
  const used = TITLE_MARKS.filter((mark) => marks[mark].results > 0 || marks[mark].own);
  if (used.length === 0) return <p>None of them uses a mark.</p>;
  return (
    <p>
      {used.map((mark, i) => (
        <span key={mark}>
          {i > 0 && ' · '}
          {TITLE_MARK_NAMES[mark]}: {marks[mark].results}
          {marks[mark].own && <b> and yours</b>}
        </span>
      ))}
    </p>
  );
}
