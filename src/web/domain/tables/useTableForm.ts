import type { DefaultValues, FieldValues } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { request } from '../../app/api';
import { say } from '../../app/notices';
import { KEYS, queryClient } from '../../app/queries';
import { useServerForm } from '../../app/useServerForm';
import type { ServerForm } from '../../app/useServerForm';

/** The form of one thing in a settings table: adds a new one, or edits the version it was opened with. */
export function useTableForm<Values extends FieldValues>(
  path: string,
  settingsPath: string,
  thing: { readonly id: string; readonly version: number } | null,
  initial: DefaultValues<Values>,
  bodyOf: (values: Values) => object,
): ServerForm<Values> {
  const navigate = useNavigate();
  return useServerForm<Values>(
    `${path}.${thing ? `${thing.id}.${thing.version}` : 'new'}`,
    initial,
    async (values) => {
      const body = bodyOf(values);
      const formPath = window.location.pathname;
      if (thing) await request('PUT', `${path}/${thing.id}`, { ...body, version: thing.version });
      else await request('POST', path, body);
      await Promise.all([
        queryClient.invalidateQueries({ queryKey: KEYS.register }),
        queryClient.invalidateQueries({ queryKey: KEYS.people }),
      ]);
      say(thing ? 'Changed.' : 'Added.');
      // Whoever went on to something else meanwhile stays there.
      if (window.location.pathname === formPath) await navigate(`/settings/${settingsPath}`);
    },
  );
}
