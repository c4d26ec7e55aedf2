import type { IncidentAnswer } from '../../contract';
import type { OpenTask } from '../../core/incident';
import { DAY_MS } from '../../core/measure';
import type { PersonId, TaskId } from '../../core/measure';
import { dueWords, whenWords } from '../../core/wording';
import { v7 as newId } from 'uuid';
import { currentTime, useReader } from '../app/clock';
import { useMay, usePerson } from '../domain/Person';
import { useRegister } from '../app/queries';
import { useNames } from '../domain/useNames';
import { figureTyped } from '../app/useServerForm';
import { Button } from '../kit/Button';
import { TextField } from '../kit/fields';
import { SelectOption } from '../kit/Select';
import { problemAt } from './problems';
import { useAddEntry } from './useAddEntry';
import { FormSelect } from '../kit/formFields';
import { useDraftForm } from '../app/useDraftForm';

/** What is still to be done about it, by whom and when. */
export function IncidentTasks({ incident }: { incident: IncidentAnswer }) {
  const mayFollow = useMay('incident.follow');
  const { tasks, closed } = incident;
  const { add, busy } = useAddEntry(incident);
  return (
    <section aria-label="Follow-ups">
      <h2 className="border-b-2 border-ink pb-1">
        Follow-ups <span className="font-normal text-faint">{tasks.filter(({ done }) => !done).length}</span>
      </h2>
      {tasks.length === 0 && <p className="py-2 text-faint">Nothing is to be done.</p>}
      <ul>
        {tasks.map((task) => (
          <TaskRow
            key={task.id}
            task={task}
            onDone={
              mayFollow && closed === null && !busy
                ? () => void add({ kind: 'task-done', payload: { taskId: task.id, note: null } }, 'Done.')
                : null
            }
          />
        ))}
      </ul>
      {mayFollow && closed === null && <NewTask incident={incident} />}
    </section>
  );
}

function TaskRow({ task, onDone }: { task: OpenTask; onDone: (() => void) | null }) {
  const reader = useReader();
  const names = useNames();
  const late = !task.done && task.dueAt <= reader.now;
  return (
    <li className="ruled flex items-center gap-3 py-1.5">
      <span className="min-w-0 flex-1">
        <span className={task.done ? 'text-faint line-through' : 'font-bold'}>{task.text}</span>
        <span className="block text-sm text-faint">
          {names.person(task.ownerId)},{' '}
          {task.done ? (
            `done ${whenWords(task.done.at, reader)}`
          ) : (
            <span className={late ? 'font-bold text-red' : ''}>{dueWords(task.dueAt, reader)}</span>
          )}
        </span>
      </span>
      {!task.done && onDone && (
        <Button onClick={onDone} aria-label={`Done: ${task.text}`}>
          Done
        </Button>
      )}
    </li>
  );
}

const LONGEST_DAYS = 365;

function areDays(typed: string): boolean {
  const days = figureTyped(typed);
  return typeof days === 'number' && days >= 0 && days <= LONGEST_DAYS;
}

function NewTask({ incident }: { incident: IncidentAnswer }) {
  const register = useRegister().data;
  const person = usePerson();
  const { add, busy, problems } = useAddEntry(incident);
  const form = useDraftForm<{ text: string; ownerId: PersonId; days: string }>(
    `incident.task.${incident.id}`,
    {
      text: '',
      ownerId: person.id,
      days: '7',
    },
  );
  const save = form.handleSubmit(async ({ text, ownerId, days }) => {
    const dueAt = Math.round(currentTime() + Number(figureTyped(days)) * DAY_MS);
    const payload = { id: newId() as TaskId, text, ownerId, dueAt };
    if (await add({ kind: 'task', payload }, 'Follow-up added.')) form.taken();
  });
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="mt-3 grid gap-2">
      <TextField label="To be done" error={problemAt(problems, 'text')} {...form.register('text')} />
      <div className="grid grid-cols-[minmax(0,1fr)_6rem_auto] items-end gap-2">
        <FormSelect label="By" control={form.control} name="ownerId" refused={problemAt(problems, 'ownerId')}>
          {register?.people.map(({ id, name }) => (
            <SelectOption key={id} value={id}>
              {name}
            </SelectOption>
          ))}
        </FormSelect>
        <TextField
          label="In days"
          inputMode="numeric"
          error={form.formState.errors.days?.message}
          {...form.register('days', { validate: (days) => areDays(days) || 'Days from now, up to a year.' })}
        />
        <Button type="submit" disabled={busy}>
          Add
        </Button>
      </div>
    </form>
  );
}
