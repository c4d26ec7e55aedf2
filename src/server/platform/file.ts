import type { Response } from 'express';

const TYPES = {
  pdf: 'application/pdf',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
  ics: 'text/calendar',
  txt: 'text/plain; charset=utf-8',
} as const;
type Ending = keyof typeof TYPES;

/** What is looked at before it is saved opens beside the page; a table or an archive is saved. */
const OPENED: ReadonlySet<Ending> = new Set(['pdf', 'ics']);

/** A file as an answer. Its ending says its type, and whether it opens or is saved. */
export interface FileAnswer {
  readonly name: `${string}.${Ending}`;
  readonly bytes: Buffer | string;
}

export function file(name: FileAnswer['name'], bytes: FileAnswer['bytes']): FileAnswer {
  return { name, bytes };
}

export function sendFile(res: Response, { name, bytes }: FileAnswer): void {
  const ending = name.slice(name.lastIndexOf('.') + 1) as Ending;
  const how = OPENED.has(ending) ? 'inline' : 'attachment';
  res.set('content-disposition', `${how}; filename="${name}"`).type(TYPES[ending]).send(bytes);
}
