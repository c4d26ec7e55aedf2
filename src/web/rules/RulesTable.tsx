import { memo, useId } from 'react';
import { PRESET_RULES, PRESET_TITLES, PRESETS, RULE_FIELDS, RULE_TOPICS, ruleValue } from '../../core/rules';
import type { HouseRules, RuleField, RuleTopic, RuleValue } from '../../core/rules';
import { ruleValueWords, TOPIC_TEXTS } from '../../core/wording';
import { fieldText, shown } from './draft';
import type { RulesDraft } from './draft';
import { Select, SelectOption } from '../kit/Select';

interface RulesTableProps {
  readonly inForce: HouseRules;
  /** Null while nobody is changing anything. */
  readonly draft: RulesDraft | null;
  readonly errors: Readonly<Record<string, string>>;
  readonly onDraft: (draft: RulesDraft) => void;
}

/** The rules topic by topic: the reason first, then each value in force beside the presets'. */
export const RulesTable = memo(function RulesTable(props: RulesTableProps) {
  return (
    <div className="max-w-5xl">
      {RULE_TOPICS.map((topic) => (
        <Topic key={topic} topic={topic} {...props} />
      ))}
    </div>
  );
});

function Topic({ topic, inForce, draft, errors, onDraft }: RulesTableProps & { topic: RuleTopic }) {
  const { title, why } = TOPIC_TEXTS[topic];
  return (
    <section id={`topic-${topic}`} aria-label={title} className="mb-6 scroll-mt-28">
      <h2 className="text-lg">{title}</h2>
      <p className="mb-1 max-w-prose text-sm text-faint">{why}</p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`${title}: values`}>
        <table className="w-full table-fixed text-sm max-md:min-w-160">
          <thead>
            <tr className="border-b-2 border-ink text-left">
              <th scope="col" className="w-[34%] py-1 pr-4">
                Rule
              </th>
              {draft && (
                <th scope="col" className="w-40 py-1 pr-4">
                  To be
                </th>
              )}
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
            {RULE_FIELDS.filter((field) => field.topic === topic).map((field) => (
              <RuleLine
                key={field.path}
                field={field}
                inForce={inForce}
                draft={draft}
                error={errors[field.path]}
                onDraft={onDraft}
              />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function RuleLine({
  field,
  inForce,
  draft,
  error,
  onDraft,
}: Omit<RulesTableProps, 'errors'> & { field: RuleField; error: string | undefined }) {
  const value = ruleValue(inForce, field);
  return (
    <tr className="border-b border-line align-top">
      <th scope="row" className="py-1 pr-4 text-left font-normal">
        {field.title}
      </th>
      {draft && (
        <td className="py-0.5 pr-4">
          <RuleInput field={field} draft={draft} value={value} error={error} onDraft={onDraft} />
        </td>
      )}
      <td className="py-1 pr-4 font-mono font-bold">{ruleValueWords(field, value)}</td>
      {PRESETS.map((preset) => {
        const said = ruleValue(PRESET_RULES[preset], field);
        return (
          <td key={preset} className={`py-1 pr-4 font-mono ${said === value ? 'text-faint' : 'text-ink'}`}>
            {ruleValueWords(field, said)}
          </td>
        );
      })}
    </tr>
  );
}

function RuleInput({
  field,
  draft,
  value,
  error,
  onDraft,
}: {
  field: RuleField;
  draft: RulesDraft;
  /** What is in force. */
  value: RuleValue;
  error: string | undefined;
  onDraft: (draft: RulesDraft) => void;
}) {
  const id = useId();
  const text = fieldText(draft, field);
  const set = (typed: string) => onDraft({ ...draft, typed: { ...draft.typed, [field.path]: typed } });
  const shared = {
    'aria-label': field.title,
    'aria-invalid': error !== undefined,
    'aria-describedby': id,
    value: text,
    className: `w-full min-h-11 border-[1.5px] bg-sheet px-1.5 font-mono aria-invalid:border-red md:min-h-7 ${
      text === shown(field, value) ? 'border-rule' : 'border-accent font-bold'
    }`,
  };
  return (
    <>
      {field.kind === 'choice' ? (
        <Select {...shared} onChange={set}>
          {field.options.map((option) => (
            <SelectOption key={option} value={option}>
              {ruleValueWords(field, option)}
            </SelectOption>
          ))}
        </Select>
      ) : (
        <span className="flex items-baseline gap-1.5">
          <input
            {...shared}
            inputMode="decimal"
            autoComplete="off"
            onChange={(event) => set(event.target.value)}
          />
          <span className="w-12 shrink-0 text-faint">{field.unit}</span>
        </span>
      )}
      <span id={id} role={error ? 'alert' : undefined} className="block font-bold text-red">
        {error}
      </span>
    </>
  );
}
