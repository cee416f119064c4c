import { namedError } from '../../core/errors';
import { text } from 'node:stream/consumers';
import robotsParser from 'robots-parser';
import { AskFailed, type Get, type GetOptions } from '../http/get';

/** The name by which this program asks for pages, and by which a site's robots.txt can mean it. */
export const PRODUCT_TOKEN = 'ModestTally';

/** By RFC 9309, 2.5, at least 500 kibibytes are read. */
const MAX_BYTES = 512 * 1024;
/** By RFC 9309, 2.3.1.2, at least five redirects are followed. */
const MAX_REDIRECTS = 5;

/** The site's rules for robots do not allow it. The message is a sentence for the person who asked. */
export class RobotsRefuse extends namedError('RobotsRefuse') {}

type Rules = { readonly allows: (address: string) => boolean };
const ALL: Rules = { allows: () => true };
const NONE: Rules = { allows: () => false };

/**
 * The rules of sites for robots (RFC 9309), each site's asked for once. A site without rules (4xx) allows everything, one
 * whose rules cannot be had (5xx, no answer) nothing.
 */
export class Robots {
  private readonly known = new Map<string, Promise<Rules>>();

  constructor(
    private readonly get: Get,
    private readonly options: Pick<GetOptions, 'privateHosts' | 'idleMs' | 'totalMs' | 'headers'>,
  ) {}

  /** Throws RobotsRefuse where an address must not be asked for. */
  async mayAsk(url: URL): Promise<void> {
    const rules = this.known.get(url.origin) ?? this.fetch(url.origin);
    this.known.set(url.origin, rules);
    if ((await rules).allows(url.href)) return;
    throw new RobotsRefuse(
      (await rules) === NONE
        ? `The robots.txt of ${url.host} cannot be had, so nothing there may be asked for.`
        : `The robots.txt of ${url.host} does not allow ${url.pathname} to be fetched by programs.`,
    );
  }

  private async fetch(origin: string): Promise<Rules> {
    const address = `${origin}/robots.txt`;
    try {
      const options = { ...this.options, maxBytes: MAX_BYTES, maxRedirects: MAX_REDIRECTS };
      const answer = await this.get(address, options);
      if (answer.status !== 200) answer.body.destroy();
      if (answer.status >= 500) return NONE;
      if (answer.status !== 200) return ALL;
      const rules = robotsParser(address, await text(answer.body));
      return { allows: (page) => rules.isAllowed(page, PRODUCT_TOKEN) !== false };
    } catch (error) {
      // An address that must not be asked at all says so itself when the page is asked for.
      if (error instanceof AskFailed) return NONE;
      throw error;
    }
  }
}
