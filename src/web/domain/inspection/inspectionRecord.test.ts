import { DEFAULT_CHECKLISTS } from '../../../core/inspection';
import type { Marks } from '../../../core/inspection';
import { photoWant } from './inspectionRecord';

const items = DEFAULT_CHECKLISTS.scheduled.map((item) => ({
  ...item,
  photo: item.key === 'label' ? ('always' as const) : item.photo,
}));
const mark = (answer: 'ok' | 'note' | 'fail') => ({ answer, note: '', photoIds: [] });
const wants = (marks: Marks) => {
  const { needed, asked } = photoWant(items, marks);
  return { needed: needed.map(({ key }) => key), asked: asked.map(({ key }) => key) };
};

it('a photo the rules ask for must be there', () => {
  expect(wants({})).toEqual({ needed: ['label'], asked: [] });
  expect(wants({ swelling: mark('note') })).toEqual({ needed: ['swelling', 'label'], asked: [] });
});

it('but a pack that is found dangerous goes on hold without one, after being asked for it once', () => {
  expect(wants({ swelling: mark('fail') })).toEqual({ needed: ['label'], asked: ['swelling'] });
});
