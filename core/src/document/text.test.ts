import fc from 'fast-check';
import { cutText, isKeepable, keepable, mustBeKeepable } from './text';

const family = '👨‍👩‍👧‍👦';

test('any text without NULs and halves of characters is kept as it is, any other loses just those', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: 'binary' }),
      fc.array(fc.constantFrom('\u0000', '\ud800', '\udc00'), { maxLength: 3 }),
      (text, spoilt) => {
        const clean = text.replaceAll('\u0000', '');
        expect(isKeepable(clean)).toBe(true);
        expect(keepable(clean)).toBe(clean);
        const made = keepable(clean + spoilt.join(' '));
        expect([isKeepable(made), made.startsWith(clean)]).toEqual([true, true]);
        // Node's own opinion of what is well formed.
        expect((made as unknown as { isWellFormed(): boolean }).isWellFormed()).toBe(true);
      },
    ),
  );
});

test('is cut between characters as people see them, never longer than asked', () => {
  expect(cutText(`a${family}b`, 5)).toBe('a');
  expect(cutText(`a${family}b`, 1 + family.length)).toBe(`a${family}`);
  expect(cutText('e\u0301tage', 1)).toBe('');
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.nat(40), (text, most) => {
      const cut = cutText(text, most);
      expect(cut.length).toBeLessThanOrEqual(most);
      expect(text.startsWith(cut)).toBe(true);
      expect(isKeepable(cut)).toBe(true);
    }),
  );
});

test('data is looked through to the bottom, and the place is named', () => {
  expect(() => mustBeKeepable({ parts: { a: { name: 'jib', at: [1, 2] } }, flags: [{ name: family }] })).not.toThrow();
  for (const [data, where] of [
    [{ parts: { a: { name: 'ji\u0000b' } } }, 'parts.a.name'],
    [{ flags: [{ name: 'x' }, { name: '\ud83d' }] }, 'flags.1.name'],
    [{ parts: { 'a\udc00': 1 } }, 'parts'],
  ] as const)
    expect(() => mustBeKeepable(data)).toThrow(expect.objectContaining({ code: 'text', where }) as Error);
});
