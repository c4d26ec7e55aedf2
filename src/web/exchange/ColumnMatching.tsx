import { fieldsOf, takesMany } from '../../core/importing';
import type { ImportField, ImportKind, Matching, Reading } from '../../core/importing';
import type { OpenedFile } from '../workers/import.worker';
import { Select, SelectOption } from '../kit/Select';

/** Column by column: its name in the file, what stands in it, and what it is taken for. */
export function ColumnMatching({
  of,
  opened,
  reading: { matching },
  onChange,
}: {
  of: ImportKind;
  opened: OpenedFile;
  reading: Reading;
  onChange: (matching: Matching) => void;
}) {
  const fields = Object.entries(fieldsOf(of)) as [ImportField, { name: string }][];
  const choose = (column: number, field: ImportField | null) =>
    onChange(
      matching.map((one, i) => {
        if (i === column) return field;
        // Only one column can be most fields: the one chosen last.
        return one === field && field !== null && !takesMany(field) ? null : one;
      }),
    );
  return (
    <div className="overflow-x-auto" role="region" aria-label="The columns of the file" tabIndex={0}>
      <table className="text-sm">
        <thead>
          <tr className="border-b border-rule text-left">
            <th scope="col" className="py-1 pr-6">
              Column
            </th>
            <th scope="col" className="py-1 pr-6">
              is
            </th>
            <th scope="col" className="py-1">
              in it stands
            </th>
          </tr>
        </thead>
        <tbody>
          {opened.columns.map((column, i) => (
            <tr key={i} className="border-b border-line">
              <th scope="row" className="py-1 pr-6 text-left font-bold">
                {column || `Column ${i + 1}`}
              </th>
              <td className="py-1 pr-6">
                <Select
                  aria-label={`${column || `Column ${i + 1}`} is`}
                  value={matching[i] ?? ''}
                  onChange={(value) => choose(i, (value || null) as ImportField | null)}
                  className={matching[i] ? 'font-bold' : 'text-faint'}
                >
                  <SelectOption value="">left out</SelectOption>
                  {fields.map(([field, { name }]) => (
                    <SelectOption key={field} value={field}>
                      {name}
                    </SelectOption>
                  ))}
                </Select>
              </td>
              <td className="max-w-96 truncate py-1 font-mono text-faint">
                {opened.samples[i]?.join(' · ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
