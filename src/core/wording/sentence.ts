import type { Finding } from '../assess';
import { advice } from './advice';
import { statement } from './statement';
import type { Reader } from './time';

/**
 * A finding as a custodian would say it: what is the case, with numbers and limit, then what to do about it. A pack that
 * is out of use gets no advice: nobody may charge it, and a custodian decides.
 */
export function sentence(finding: Finding, reader: Reader, outOfUse = false): string {
  const said = statement(finding, reader);
  const toDo = outOfUse ? null : advice(finding, reader);
  return toDo ? `${said} ${toDo}` : said;
}
