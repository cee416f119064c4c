import path from 'node:path';
import { isoDay } from '../../core/calendar/day';
import { acceptInvitation, makeFirstAccount } from '../../services/access/accounts';
import { authOf } from '../../services/access/auth';
import { listPages } from '../../store/addresses/pages';
import { invite } from '../../store/access/passes';
import { siteCoverage } from '../../store/figures/coverage';
import { bringForward, connect } from '../../store/database';
import { makeFullSite } from '../readings/fullSite';

/*
 * Makes a site of full size in the folder given as the first argument, with as many accounts as the second says, signs each of them
 * in, and prints what the script that drives the load has to know, as JSON.
 */

const [, , dir = '', people = '55', rowsAQuery = '150', pagesOfSite = '2000', changes = '500'] = process.argv;
process.env.TALLY_DATA_DIR = dir;
const PASSWORD = 'quiet smoker on the hill';

const db = connect(path.join(dir, 'tally.sqlite'));
bringForward(db);
const site = await makeFullSite(db, {
  ...{
    pages: Number(pagesOfSite),
    days: 480,
    changes: Number(changes),
    queriesAPage: 50,
    rowsAQuery: Number(rowsAQuery),
  },
});
await makeFirstAccount(db, { email: 'mk@quillow-bees.example', name: 'MK', password: PASSWORD });
const cookies: string[] = [];
for (let i = 0; i < Number(people); i++) {
  const email = `p${i}@quillow-bees.example`;
  const { key } = await invite(db, { email, siteId: site.id, role: 'editor' });
  await acceptInvitation(db, key, { name: `P${i}`, password: PASSWORD });
  const answer = await authOf(db).api.signInEmail({ body: { email, password: PASSWORD }, asResponse: true });
  cookies.push(
    answer.headers
      .getSetCookie()
      .map((one) => one.split(';', 1)[0]!)
      .join('; '),
  );
}
const rows = db.$client
  .prepare<[], { n: number }>('SELECT sum(rows) AS n FROM figures WHERE grain = 3')
  .get()!.n;
const { lastDay } = siteCoverage(db, site.id)!;
const pages = listPages(db, site.id);
console.log(
  JSON.stringify({
    ...{ site: site.id, rows, lastDay: isoDay(lastDay), cookies },
    pages: pages.map(({ id, address }) => ({ id, address })),
  }),
);
db.$client.close();
