import type { EntryId, IncidentId, Instant, PackId, PersonId, TaskId } from '../measure';
import { entryRefusals, foldIncident, INCIDENT_FACTS, INCIDENT_KINDS } from '.';
import type { Entry, EntryBody } from '.';

const ID = 'incident' as IncidentId;
const BY = 'somebody' as PersonId;
const TASK = 'task' as TaskId;

let made = 0;
function entry(body: EntryBody, at: Instant = made): Entry {
  made += 1;
  return { ...body, id: `entry-${made}` as EntryId, at, seq: made, recordedAt: at, by: BY };
}

const reported = () =>
  entry({
    kind: 'reported',
    payload: {
      kind: 'crash',
      place: 'the dyke',
      what: null,
      packIds: ['a' as PackId],
      personIds: [],
      craft: null,
      charger: null,
      harm: null,
      photoIds: [],
      holds: true,
    },
  });
const task = () =>
  entry({ kind: 'task', payload: { id: TASK, text: 'Look at the mount', ownerId: BY, dueAt: 100 } });
const done = () => entry({ kind: 'task-done', payload: { taskId: TASK, note: null } });
const cause = () => entry({ kind: 'cause', payload: { cause: 'mechanical', text: 'a loose screw' } });
const closed = () => entry({ kind: 'closed', payload: { note: 'screws are checked now' } });

const codes = (entries: readonly Entry[], next: EntryBody) =>
  entryRefusals(foldIncident(ID, entries), next).map(({ code }) => code);

it('adds up what its entries say', () => {
  const more = entry({ kind: 'named', payload: { packIds: ['b' as PackId, 'a' as PackId], holds: true } });
  const lesson = entry({ kind: 'lesson', payload: { text: 'Torque the mount.' } });
  const incident = foldIncident(ID, [reported(), more, task(), cause(), lesson, done(), closed()]);
  expect(incident).toMatchObject({
    packIds: ['a', 'b'],
    cause: { cause: 'mechanical' },
    lessons: ['Torque the mount.'],
    tasks: [{ id: TASK, done: { by: BY } }],
    closed: { note: 'screws are checked now' },
  });
});

it('is nothing before it is reported, and is reported once', () => {
  expect(foldIncident(ID, [])).toBeNull();
  expect(foldIncident(ID, [cause()])).toBeNull();
  expect(codes([], cause())).toEqual(['not-reported']);
  expect(codes([reported()], reported())).toEqual(['reported-already']);
});

it('closes only with its cause named and every follow-up done', () => {
  expect(codes([reported()], closed())).toEqual(['cause-missing']);
  expect(codes([reported(), task()], closed())).toEqual(['cause-missing', 'tasks-open']);
  expect(codes([reported(), task(), cause(), done()], closed())).toEqual([]);
});

it('takes nothing more once closed, until it is opened again', () => {
  const over = [reported(), cause(), closed()];
  const again = entry({ kind: 'reopened', payload: { reason: 'it happened again' } });
  expect(codes(over, task())).toEqual(['is-closed']);
  expect(codes([reported()], again)).toEqual(['is-open']);
  expect(codes(over, again)).toEqual([]);
  expect(codes([...over, again], task())).toEqual([]);
});

it('a follow-up is done once', () => {
  expect(codes([reported()], done())).toEqual(['no-such-task']);
  expect(codes([reported(), task(), done()], done())).toEqual(['no-such-task']);
});

it('whatever can burn is held, and what burnt or leaked never comes back', () => {
  const never = INCIDENT_KINDS.filter((kind) => !INCIDENT_FACTS[kind].mayReturn);
  expect(never).toEqual(['smoke-fire', 'leak']);
  for (const kind of INCIDENT_KINDS) {
    const { holds, watch, harms } = INCIDENT_FACTS[kind];
    if (watch !== null || harms) expect(holds).toBe('yes');
  }
});
