/** What a column of a file can be. `cell` and `ir` are one column a cell, in the order they stand. */
export const PACK_FIELDS = {
  tag: {
    name: 'Tag',
    known: [
      'tag',
      'id',
      'no',
      'nr',
      'number',
      'pack',
      'pack id',
      'battery',
      'battery id',
      'label',
      'name',
      'akku',
      'akku nr',
      'nummer',
      'accu',
      'batterie',
      'serial',
    ],
  },
  type: {
    name: 'Type',
    known: [
      'type',
      'model',
      'typ',
      'modell',
      'battery type',
      'pack type',
      'description',
      'bezeichnung',
      'omschrijving',
      'modèle',
    ],
  },
  chemistry: {
    name: 'Chemistry',
    known: ['chemistry', 'chem', 'chemie', 'technology', 'chimie', 'cell type'],
  },
  series: {
    name: 'Cells',
    known: [
      'cells',
      's',
      'cell count',
      'series',
      'cells in series',
      'config',
      'configuration',
      'zellen',
      'cellen',
      'cellules',
      'no of cells',
      'sp',
    ],
  },
  parallel: { name: 'Parallel', known: ['parallel', 'p', 'cells in parallel'] },
  volts: {
    name: 'Nominal volts',
    known: [
      'voltage',
      'volts',
      'v',
      'nominal voltage',
      'nominal',
      'spannung',
      'spanning',
      'tension',
      'nennspannung',
    ],
  },
  capacity: {
    name: 'Capacity',
    known: [
      'capacity',
      'mah',
      'cap',
      'capacity mah',
      'kapazität',
      'kapazitat',
      'capaciteit',
      'capacité',
      'ah',
      'capacity ah',
      'size',
    ],
  },
  continuousC: {
    name: 'C rating',
    known: ['c', 'c rating', 'c rate', 'discharge c', 'continuous c', 'rating', 'discharge rate', 'c cont'],
  },
  burstC: { name: 'Burst C', known: ['burst', 'burst c', 'peak c', 'max c'] },
  chargeC: { name: 'Charge C', known: ['charge c', 'max charge', 'charge rate', 'ladestrom c'] },
  connector: {
    name: 'Connector',
    known: ['connector', 'plug', 'stecker', 'stekker', 'connecteur', 'main plug'],
  },
  balancePlug: { name: 'Balance plug', known: ['balance plug', 'balance', 'balancer', 'balance connector'] },
  massG: { name: 'Mass', known: ['mass', 'weight', 'gewicht', 'poids', 'g', 'weight g', 'mass g'] },
  price: {
    name: 'Price',
    known: ['price', 'cost', 'preis', 'prijs', 'prix', 'paid', 'eur', 'purchase price'],
  },
  inService: {
    name: 'In service since',
    known: [
      'in service',
      'in service since',
      'since',
      'purchased',
      'bought',
      'date',
      'purchase date',
      'date of purchase',
      'first use',
      'commissioned',
      'gekauft',
      'kaufdatum',
      'in betrieb',
      'aankoop',
      'achat',
      'acquired',
      'in use since',
    ],
  },
  cycles: {
    name: 'Cycles so far',
    known: [
      'cycles',
      'cycle',
      'charges',
      'cycle count',
      'zyklen',
      'cycli',
      'ladungen',
      'cycles so far',
      'no of cycles',
    ],
  },
  flights: {
    name: 'Flights so far',
    known: ['flights', 'flight count', 'flüge', 'fluge', 'vluchten', 'vols', 'flights so far', 'uses'],
  },
  place: {
    name: 'Place',
    known: [
      'place',
      'location',
      'stored',
      'box',
      'storage',
      'ort',
      'lagerort',
      'plaats',
      'lieu',
      'where',
      'shelf',
      'cabinet',
      'kept in',
    ],
  },
  owner: { name: 'Owner', known: ['owner', 'belongs to', 'besitzer', 'eigenaar', 'propriétaire', 'member'] },
  source: {
    name: 'Source',
    known: ['source', 'supplier', 'seller', 'shop', 'händler', 'leverancier', 'bought from', 'vendor'],
  },
  remarks: {
    name: 'Remarks',
    known: [
      'remarks',
      'remark',
      'notes',
      'note',
      'comment',
      'comments',
      'bemerkung',
      'bemerkungen',
      'opmerking',
      'opmerkingen',
      'remarques',
      'status',
      'condition',
    ],
  },
} as const satisfies Readonly<Record<string, FieldName>>;

export const HISTORY_FIELDS = {
  tag: PACK_FIELDS.tag,
  kind: {
    name: 'What it was',
    known: ['what', 'kind', 'event', 'action', 'type', 'entry', 'art', 'vorgang', 'activity', 'record'],
  },
  date: {
    name: 'Day',
    known: ['date', 'day', 'datum', 'when', 'date time', 'datetime', 'timestamp', 'at', 'jour', 'tag datum'],
  },
  time: { name: 'Time', known: ['time', 'hour', 'uhrzeit', 'zeit', 'tijd', 'heure', 'clock'] },
  volts: {
    name: 'Volts',
    known: [
      'volts',
      'voltage',
      'cells',
      'cell volts',
      'v',
      'spannung',
      'zellen',
      'reading',
      'cell voltages',
      'end volts',
      'landing volts',
      'landing voltage',
      'after',
    ],
  },
  cell: { name: 'Volts of one cell', known: [] },
  condition: { name: 'Condition', known: ['condition', 'state', 'rested', 'zustand', 'toestand'] },
  mah: {
    name: 'mAh',
    known: [
      'mah',
      'charge mah',
      'used',
      'used mah',
      'charged',
      'mah in',
      'mah out',
      'charged mah',
      'moved',
      'ah',
      'capacity',
      'mah used',
      'mah charged',
    ],
  },
  minutes: {
    name: 'Minutes',
    known: [
      'minutes',
      'min',
      'duration',
      'flight time',
      'minuten',
      'dauer',
      'duur',
      'durée',
      'time flown',
      'length',
    ],
  },
  mode: { name: 'Charger’s job', known: ['mode', 'program', 'programme', 'programm', 'job'] },
  charger: { name: 'Charger', known: ['charger', 'ladegerät', 'lader', 'chargeur'] },
  current: { name: 'Current', known: ['current', 'amps', 'a', 'strom', 'charge a', 'stroom'] },
  ir: {
    name: 'Resistance',
    known: ['ir', 'resistance', 'internal resistance', 'mohm', 'mω', 'innenwiderstand', 'ri'],
  },
  irCell: { name: 'Resistance of one cell', known: [] },
  temperature: {
    name: 'Temperature',
    known: ['temperature', 'temp', '°c', 'c', 'temperatur', 'hottest', 'max temp', 'pack temp'],
  },
  ambient: {
    name: 'Outside temperature',
    known: ['ambient', 'outside', 'ambient temp', 'outside temperature', 'aussentemperatur', 'air'],
  },
  pilot: {
    name: 'Pilot',
    known: ['pilot', 'flown by', 'by', 'who', 'person', 'name', 'member', 'piloot', 'pilote', 'operator'],
  },
  craft: {
    name: 'Craft',
    known: [
      'craft',
      'aircraft',
      'drone',
      'model',
      'airframe',
      'modell',
      'flugzeug',
      'uav',
      'vehicle',
      'toestel',
    ],
  },
  result: {
    name: 'Result',
    known: ['result', 'ok', 'passed', 'pass', 'outcome', 'ergebnis', 'resultaat', 'inspection'],
  },
  swelling: { name: 'Swelling', known: ['swelling', 'swollen', 'puffed', 'puffy', 'gebläht', 'bol'] },
  instrument: { name: 'Meter', known: ['meter', 'instrument', 'messgerät', 'tester', 'checker'] },
  remarks: PACK_FIELDS.remarks,
} as const satisfies Readonly<Record<string, FieldName>>;

interface FieldName {
  readonly name: string;
  /** How clubs head such a column. */
  readonly known: readonly string[];
}

export type PackField = keyof typeof PACK_FIELDS;
export type HistoryField = keyof typeof HISTORY_FIELDS;
export type ImportKind = 'packs' | 'history';
export type ImportField = PackField | HistoryField;

/** Which field each column is, by its place; null for one that is left out. */
export type Matching = readonly (ImportField | null)[];

const MANY: ReadonlySet<ImportField> = new Set(['cell', 'irCell']);

/** The fields a column can be, by kind of import. */
export function fieldsOf(kind: ImportKind): Readonly<Record<string, FieldName>> {
  return kind === 'packs' ? PACK_FIELDS : HISTORY_FIELDS;
}

/** Whether several columns can be this field. */
export function takesMany(field: ImportField): boolean {
  return MANY.has(field);
}

/**
 * The field a column is by its name; null where nothing fits.
 * @example fieldNamed('packs', 'Capacity (mAh)') // => "capacity"
 * @example fieldNamed('history', 'Cell 3') // => "cell"
 * @example fieldNamed('packs', 'Shoe size') // => null
 */
export function fieldNamed(kind: ImportKind, column: string): ImportField | null {
  const name = plain(column);
  if (name === '') return null;
  if (kind === 'history') {
    if (/^(?:cells?|zellen?|c|v|volts?|u)[ ]?\d{1,2}( v)?$/.test(name)) return 'cell';
    if (/^(?:ir|ri|mohm|resistance)( cell)?[ ]?\d{1,2}$/.test(name)) return 'irCell';
  }
  const fields = Object.entries(fieldsOf(kind)) as [ImportField, FieldName][];
  const exact = fields.find(([, { name: own, known }]) => plain(own) === name || known.includes(name));
  if (exact) return exact[0];
  const bare = plain(column.replace(/[([].*?[)\]]/g, ' '));
  const within = fields.find(([, { known }]) => known.some((one) => one === bare));
  return within?.[0] ?? null;
}

function plain(name: string): string {
  return name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}°ωµ]+/gu, ' ')
    .trim();
}

/** Every column by its name; a field that only one column can be goes to the first that is named so. */
export function guessedMatching(kind: ImportKind, columns: readonly string[]): Matching {
  const taken = new Set<ImportField>();
  return columns.map((column) => {
    const field = fieldNamed(kind, column);
    if (field === null || (taken.has(field) && !takesMany(field))) return null;
    taken.add(field);
    return field;
  });
}
