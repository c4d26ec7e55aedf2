import type { Highs } from 'highs';

/**
 * What a linear or mixed-integer programme in LP format proves of its objective: no solution is better than this. Null where
 * nothing was proven, because there is no solution or not enough time. Whole numbers that are not settled by then still prove
 * what the search through them has excluded so far.
 *
 * @param seconds by when a search through whole numbers ends
 * @throws where the solver itself fails; the module is then of no more use
 */
export function proveBound(highs: Highs, programme: string, seconds: number): number | null {
  const whole = /^General$/m.test(programme);
  return highs.withModel({ format: 'lp', data: programme }, (model) => {
    model.options.set('output_flag', false);
    model.options.set('time_limit', seconds);
    // The large ones without whole numbers are solved by this several times sooner.
    if (!whole) model.options.set('solver', 'ipm');
    model.run();
    const status = model.getModelStatus();
    const { optimal, infeasible } = highs.constants.modelStatus;
    if (status === infeasible) return null;
    if (!whole) return status === optimal ? model.getObjectiveValue() : null;
    const bound = Number(model.info.get('mip_dual_bound'));
    return Number.isFinite(bound) ? bound : null;
  });
}
