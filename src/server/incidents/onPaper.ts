import type { IncidentAnswer, PersonAnswer } from '../../contract';
import { CAUSE_WORDS, INCIDENT_WORDS, entryWords } from '../../core/wording';
import type { LogNames, Reader } from '../../core/wording';
import { PAPER, QUIET, heading, paperDay, paperTime, tableOf } from '../platform/paper';
import type { PaperDocument } from '../platform/pdf';

export interface IncidentOnPaper {
  readonly incident: IncidentAnswer;
  readonly people: readonly PersonAnswer[];
  /** The tags of the packs it names, by their ids. */
  readonly tags: ReadonlyMap<string, string>;
  readonly reader: Reader;
}

/** One incident with everything said and done, in the order it was written. */
export function incidentOnPaper({ incident, people, tags, reader }: IncidentOnPaper): PaperDocument {
  const { report, at, by, closed, cause, harm, lessons, tasks, entries } = incident;
  const { zone } = reader;
  const names: LogNames = {
    person: (id) => people.find((one) => one.id === id)?.name ?? 'somebody',
    pack: (id) => tags.get(id) ?? 'a pack',
  };
  const { name } = INCIDENT_WORDS[report.kind];
  const facts: readonly (readonly [string, string | null])[] = [
    ['Happened', `${paperTime(at, zone)}${report.place ? `, ${report.place}` : ''}`],
    ['Reported by', names.person(by)],
    [
      'Also there',
      report.personIds
        .filter((id) => id !== by)
        .map(names.person)
        .join(', ') || null,
    ],
    ['Packs', incident.packIds.map(names.pack).join(', ') || 'none named'],
    ['Craft', report.craft],
    ['Charger', report.charger],
    ['Cause', cause ? [CAUSE_WORDS[cause.cause], cause.text].filter(Boolean).join(', ') : 'not named yet'],
    ['Injuries and damage', harm ?? 'not said'],
    ['Lesson learned', lessons.join(' ') || null],
    [
      'Closed',
      closed ? `${paperTime(closed.at, zone)} by ${names.person(closed.by)}: ${closed.note}` : 'open',
    ],
  ];
  return {
    ...PAPER,
    info: { title: name },
    content: [
      heading(name, paperDay(at, zone)),
      ...facts.flatMap(([label, value]) =>
        value === null
          ? []
          : [
              {
                text: [
                  { text: `${label}  `, color: QUIET },
                  { text: value, bold: true },
                ],
              },
            ],
      ),
      { text: 'Follow-ups', bold: true, fontSize: 12, margin: [0, 12, 0, 4] },
      tasks.length === 0
        ? { text: 'None.', color: QUIET }
        : tableOf(
            ['What', 'Who', 'Due', 'Done'],
            tasks.map(({ text, ownerId, dueAt, done }) => [
              text,
              names.person(ownerId),
              paperDay(dueAt, zone),
              done ? `${paperDay(done.at, zone)}, ${names.person(done.by)}` : 'not yet',
            ]),
            ['*', 90, 70, 110],
            4,
          ),
      { text: 'Log', bold: true, fontSize: 12, margin: [0, 12, 0, 4] },
      tableOf(
        ['No.', 'When', 'What', 'By'],
        entries.map((entry) => [
          String(entry.seq),
          paperTime(entry.at, zone),
          entryWords(entry, tasks, names, reader),
          names.person(entry.by),
        ]),
        [24, 100, '*', 90],
        4,
      ),
    ],
  };
}
