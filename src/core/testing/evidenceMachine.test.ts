import { disagreement } from './evidenceMachine';

it('an answer covers what it knew and nothing else, over 500 random histories', () => {
  const broken = Array.from({ length: 500 }, (_, seed) => disagreement(seed + 1)).filter(
    (one) => one !== null,
  );
  expect(broken.slice(0, 2)).toEqual([]);
});
