import { hexColour, linearOf } from './colour';

test('colours of the picker are those of the document, and back', () => {
  expect(hexColour([1, 1, 1])).toBe('#ffffff');
  expect(hexColour([0.2158605, 0, 1])).toBe('#8000ff');
  for (const hex of ['#000000', '#123456', '#fedcba', '#808080']) expect(hexColour(linearOf(hex))).toBe(hex);
});
