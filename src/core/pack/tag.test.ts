import { TAG_PATTERN, tagKey } from '.';

it.each(['HX-07', 'hx07', 'HX 07', ' hx–07 ', 'H.X_0/7'])('%j is the tag HX07', (written) => {
  expect(tagKey(written)).toBe('HX07');
});

it.each(['HX-07', 'A', '7', 'Über 3', 'box/12.b'])('%s can be a tag', (tag) => {
  expect(TAG_PATTERN.test(tag)).toBe(true);
});

it.each(['', '-', ' HX', 'HX-', 'HX\n07', '<b>', 'x'.repeat(25)])('%j cannot', (tag) => {
  expect(TAG_PATTERN.test(tag)).toBe(false);
});
