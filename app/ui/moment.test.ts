import { momentFromField, momentInWords, momentToField } from './moment';

it('says a moment in words, and takes it from a field and back', () => {
  const iso = momentFromField('2026-11-30T08:05')!;
  expect(momentToField(iso)).toBe('2026-11-30T08:05');
  expect(momentInWords(iso)).toMatch(/^Monday,? 30 November at 08:05$/);
  expect([momentFromField(''), momentFromField('soon'), momentToField(null)]).toEqual([
    ...[null, null, ''],
  ]);
});
