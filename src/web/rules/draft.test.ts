import { PRESET_RULES, RULE_FIELDS, ruleValue, withRuleValue } from '../../core/rules';
import type { RuleEffect } from '../../core/whatif';
import { changesFromPreset, drafted, draftOf, fieldText, startedFrom } from './draft';
import { NO_PREVIEW, whatIfAfter } from './useWhatIf';

const EVEN = PRESET_RULES['even-keel'];
const changed = withRuleValue(EVEN, { path: 'idle.everyDays' }, 21);
const target = RULE_FIELDS.find(({ path }) => path === 'storage.lipo.targetMv')!;

describe('the rules as typed', () => {
  it('begin as what is in force, and come back as that', () => {
    expect(draftOf(EVEN, 1)).toEqual({ basedOn: 1, preset: 'even-keel', typed: {} });
    expect(draftOf(changed, 1).typed).toEqual({ 'idle.everyDays': '21' });
    expect(drafted(draftOf(changed, 1), changed)).toMatchObject({ rules: changed, errors: {}, changed: [] });
  });

  it.each(['3.85', '3,85', '385', '3850'])('volts typed as %s are 3.85 V', (text) => {
    const { rules } = drafted({ basedOn: 1, preset: 'even-keel', typed: { [target.path]: text } }, EVEN);
    expect(rules && ruleValue(rules, target)).toBe(3850);
  });

  it('what is no figure, or beyond what any school defends, is named at its field and nothing is lost', () => {
    const draft = {
      basedOn: 1,
      preset: 'even-keel',
      typed: { [target.path]: '3.95', 'idle.everyDays': 'often' },
    } as const;
    const { rules, errors } = drafted(draft, EVEN);
    expect(rules).toBeNull();
    expect(errors[target.path]).toContain('3.80 V to 3.85 V');
    expect(errors['idle.everyDays']).toBe('“often” is no figure.');
    expect(fieldText(draft, target)).toBe('3.95');
  });

  it('started from another preset show that preset, and every difference from what is in force', () => {
    const draft = startedFrom(draftOf(EVEN, 1), 'long-service');
    const { rules, changed: fields } = drafted(draft, EVEN);
    expect(rules).toEqual(PRESET_RULES['long-service']);
    expect(fields.length).toBeGreaterThan(8);
    expect(changesFromPreset(rules!)).toEqual([]);
    expect(changesFromPreset(changed)).toEqual([{ path: 'idle.everyDays', value: 21 }]);
  });
});

describe('a preview', () => {
  const effect = { packId: 'a' } as unknown as RuleEffect;
  const progress = (judged: number) =>
    ({ id: 1, kind: 'progress', judged, packs: 10, records: judged * 5, effects: [effect] }) as const;
  const done = (milliseconds: number) => ({ id: 1, kind: 'done', milliseconds }) as const;
  const asked = (workers: number) => whatIfAfter(NO_PREVIEW, { kind: 'asked', workers });

  it('gathers what each page found until it is done', () => {
    const state = [progress(5), progress(5), done(40)].reduce(whatIfAfter, asked(1));
    expect(state).toMatchObject({ state: 'done', packsSoFar: 10, packs: 10, records: 50, milliseconds: 40 });
    expect(state.effects).toHaveLength(2);
  });

  it('is done when the last of its workers is, and has taken as long as that', () => {
    const one = [progress(4), done(40), progress(3)].reduce(whatIfAfter, asked(2));
    expect(one).toMatchObject({ state: 'running', packsSoFar: 7 });
    const both = [progress(3), done(90)].reduce(whatIfAfter, one);
    expect(both).toMatchObject({ state: 'done', packsSoFar: 10, milliseconds: 90 });
    expect(whatIfAfter(whatIfAfter(one, { id: 1, kind: 'failed' }), progress(3)).state).toBe('failed');
  });

  it('keeps what it has when cancelled, and begins anew when asked again', () => {
    const cancelled = whatIfAfter(whatIfAfter(NO_PREVIEW, progress(5)), { kind: 'cancelled' });
    expect(cancelled).toMatchObject({ state: 'cancelled', packsSoFar: 5 });
    expect(whatIfAfter(cancelled, { kind: 'asked', workers: 2 })).toMatchObject({
      state: 'running',
      effects: [],
    });
    expect(whatIfAfter(cancelled, { kind: 'dropped' })).toEqual(NO_PREVIEW);
    expect(whatIfAfter(cancelled, { id: 1, kind: 'failed' }).state).toBe('failed');
  });
});
