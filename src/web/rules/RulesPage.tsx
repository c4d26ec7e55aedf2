import { PRESET_RULES, PRESET_TITLES, PRESETS } from '../../core/rules';
import { ruleRows, whenWords } from '../../core/wording';
import { useReader } from '../app/clock';
import { Failure } from '../app/Failure';
import { useRegister } from '../app/queries';
import { Loading } from '../kit/Message';

/** Every house rule in force, beside what the three presets say. */
export default function RulesPage() {
  const register = useRegister();
  const reader = useReader();
  if (register.isError) return <Failure error={register.error} retry={() => void register.refetch()} />;
  if (register.isPending) return <Loading what="the house rules" />;
  const { rules, version, adoptedAt } = register.data.rules;
  const presets = PRESETS.map((preset) => ruleRows(PRESET_RULES[preset]));
  return (
    <>
      <title>House rules · Malle</title>
      <h1>House rules</h1>
      <p className="mb-4 text-faint">
        {PRESET_TITLES[rules.preset]}, version {version}, in force since {whenWords(adoptedAt, reader)}. Every
        threshold Malle judges by stands here.
      </p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="House rules">
        <table className="w-full max-w-5xl text-sm">
          <thead>
            <tr className="border-b-2 border-ink text-left">
              <th scope="col" className="py-1 pr-4">
                Rule
              </th>
              <th scope="col" className="py-1 pr-4">
                In force
              </th>
              {PRESETS.map((preset) => (
                <th key={preset} scope="col" className="py-1 pr-4 font-normal text-faint">
                  {PRESET_TITLES[preset]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ruleRows(rules).map(({ title, value }, i) => (
              <tr key={title} className="border-b border-line">
                <th scope="row" className="py-1 pr-4 text-left font-normal">
                  {title}
                </th>
                <td className="py-1 pr-4 font-mono font-bold">{value}</td>
                {presets.map((rows, column) => (
                  <td
                    key={PRESETS[column]}
                    className={`py-1 pr-4 font-mono ${rows[i]!.value === value ? 'text-faint' : 'text-ink'}`}
                  >
                    {rows[i]!.value}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
