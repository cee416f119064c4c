import { changeKindName } from '@/core/model/change';
import type { Scorebook } from '@/core/scorebook/book';
import type { ForecastScore } from '@/core/scorebook/forecasts';
import { ABSENT, count, netPercent, plural } from '@/core/words/format';
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

function Table({ head, lines }: { head: string; lines: readonly (ForecastScore & { name: string })[] }) {
  const mean = (log: number | null) => (log === null ? ABSENT : netPercent(Math.exp(log)));
  return (
    <table className="figures dense mb-3 text-[0.87rem] [&_thead_th]:whitespace-normal [&_tbody_th]:whitespace-normal">
      <thead>
        <tr>
          <th scope="col">{head}</th>
          <th scope="col">met</th>
          <th scope="col">not met</th>
          <th scope="col">cannot be told</th>
          <th scope="col">expected, mean</th>
          <th scope="col">came, mean</th>
        </tr>
      </thead>
      <tbody>
        {lines.map(({ key, name, met, notMet, cannotBeTold, expected, came }) => (
          <tr key={key}>
            <th scope="row">{name}</th>
            <td>{met}</td>
            <td>{notMet}</td>
            <td>{cannotBeTold}</td>
            <td>{mean(expected)}</td>
            <td>{mean(came)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
