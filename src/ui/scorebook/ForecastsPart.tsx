import { changeKindName } from '@/core/model/change';
import type { Scorebook } from '@/core/scorebook/book';
import type { ForecastScore } from '@/core/scorebook/forecasts';
import { ABSENT, count, netPercent, plural } from '@/core/words/format';
import { FiguresTable } from '../kit/table/FiguresTable';
import { Part } from '../reading/HowTo';

/** What people and the program expected, against what came. */
export function ForecastsPart({ book }: { book: Scorebook }) {
  const { person, kind } = book.forecasts;
  const all = person.reduce((sum, { forecasts }) => sum + forecasts, 0);
  const met = person.reduce((sum, one) => sum + one.met, 0);
  const { openings } = book;
  return (
    <Part
      title="Forecasts held to account"
      howTo={
        <p>
          Met: even the low end of the range reaches what was expected. Not met: even the high end does not.
          In between it cannot be told. The means are over those of which an amount was named and an effect
          could be read.
        </p>
      }
    >
      {all === 0 ? (
        <p className="text-[0.93rem]">
          Nobody wrote down what to expect of what was read so far. It takes a few seconds when a change is
          logged, and here it pays.
        </p>
      ) : (
        <>
          <p className="mb-1 text-[0.93rem]">
            Of {plural(all, 'expectation')} {met} {met === 1 ? 'was' : 'were'} met.
          </p>
          <Table head="who" lines={person.map((one) => ({ ...one, name: one.key || 'nobody named' }))} />
          <Table head="kind" lines={kind.map((one) => ({ ...one, name: changeKindName(one.key) }))} />
        </>
      )}
      {openings && (
        <p className="mt-2 text-[0.93rem]">
          The program’s own openings: {plural(openings.openings, 'one')} taken on and read, estimated at{' '}
          {count(openings.estimated)} clicks a month together, came to <b>{count(openings.came)}</b>;{' '}
          {openings.within} within the range given.
        </p>
      )}
    </Part>
  );
}

type Line = ForecastScore & { readonly name: string };

function Table({ head, lines }: { head: string; lines: readonly Line[] }) {
  const mean = (id: string, of: (line: Line) => number | null) => ({
    id,
    value: of,
    cell: (line: Line) => {
      const log = of(line);
      return log === null ? ABSENT : netPercent(Math.exp(log));
    },
  });
  return (
    <div className="mb-3">
      <FiguresTable
        label={`Forecasts by ${head}`}
        className="dense text-[0.87rem] [&_thead_th]:whitespace-normal [&_tbody_th]:whitespace-normal"
        rows={lines}
        rowKey={({ key }) => key}
        columns={[
          { id: head, value: ({ name }) => name },
          { id: 'met', value: ({ met }) => met },
          { id: 'not met', value: ({ notMet }) => notMet },
          { id: 'cannot be told', value: ({ cannotBeTold }) => cannotBeTold },
          mean('expected, mean', ({ expected }) => expected),
          mean('came, mean', ({ came }) => came),
        ]}
      />
    </div>
  );
}
