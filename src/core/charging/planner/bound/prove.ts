/** The part of a solver that is asked for here; the solver itself comes from whoever can load one. */
export interface Solver {
  readonly constants: { readonly modelStatus: { readonly optimal: number; readonly infeasible: number } };
  withModel<Result>(
    source: { readonly format: 'lp'; readonly data: string },
    operation: (model: Model) => Result,
  ): Result;
}

interface Model {
  readonly options: { set(name: string, value: boolean | number | string): unknown };
  readonly info: { get(name: string): number | bigint };
  run(): unknown;
  getModelStatus(): number;
  getObjectiveValue(): number;
}

/**
 * What a linear or mixed-integer programme in LP format proves of its objective: no solution is better than this. Null where
 * nothing was proven, because there is no solution or not enough time. Whole numbers that are not settled by then still prove
 * what the search through them has excluded so far.
 *
 * @param seconds by when a search through whole numbers ends
 * @throws where the solver itself fails; the module is then of no more use
 */
export function proveBound(solver: Solver, programme: string, seconds: number): number | null {
  const whole = /^General$/m.test(programme);
  return solver.withModel({ format: 'lp', data: programme }, (model) => {
    model.options.set('output_flag', false);
    model.options.set('time_limit', seconds);
    // The large ones without whole numbers are solved by this several times sooner.
    if (!whole) model.options.set('solver', 'ipm');
    model.run();
    const status = model.getModelStatus();
    const { optimal, infeasible } = solver.constants.modelStatus;
    if (status === infeasible) return null;
    if (!whole) return status === optimal ? model.getObjectiveValue() : null;
    const bound = Number(model.info.get('mip_dual_bound'));
    return Number.isFinite(bound) ? bound : null;
  });
}
