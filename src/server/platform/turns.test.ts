import { EventEmitter, once } from 'node:events';
import { setTimeout as pause } from 'node:timers/promises';
import { v7 as newId } from 'uuid';
import type { PersonId } from '../../core/measure';
import { Turns } from './turns';

const person = () => newId() as PersonId;
const until = () => new AbortController().signal;

it('does one thing at a time for one person, in order, and another person’s beside it', async () => {
  const turns = new Turns();
  const one = person();
  const told: string[] = [];
  const gate = new EventEmitter();
  const first = turns.take(one, until(), async () => {
    told.push('first begins');
    await once(gate, 'open');
    told.push('first ends');
  });
  const second = turns.take(one, until(), () => Promise.resolve(told.push('second')));
  await turns.take(person(), until(), () => Promise.resolve(told.push('other')));
  expect(told).toEqual(['first begins', 'other']);
  gate.emit('open');
  await Promise.all([first, second]);
  expect(told).toEqual(['first begins', 'other', 'first ends', 'second']);
  expect(turns.count()).toBe(0);
});

it('refuses who has too much waiting, forgets who went away, and what failed keeps nobody from the next', async () => {
  const turns = new Turns();
  const one = person();
  const gone = new AbortController();
  const slow = turns.take(one, until(), () => pause(40));
  const waits = turns.take(one, gone.signal, () => Promise.resolve('never'));
  const fails = turns.take(one, until(), () => Promise.reject(new Error('no such thing')));
  const rest = Array.from({ length: 6 }, (_, i) => turns.take(one, until(), () => Promise.resolve(i)));
  await expect(turns.take(one, until(), () => Promise.resolve())).rejects.toMatchObject({ code: 'busy' });
  gone.abort();
  const ended = await Promise.allSettled([slow, waits, fails, ...rest]);
  expect(
    ended.map((one) => (one.status === 'fulfilled' ? one.value : (one.reason as Error).message)),
  ).toEqual([undefined, expect.stringMatching(/abort/i), 'no such thing', 0, 1, 2, 3, 4, 5]);
  expect(turns.count()).toBe(0);
});
