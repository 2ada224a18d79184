import { dateTimeFromField, dateTimeInWords, dateTimeToField } from './date-time';

it('says a moment in words, and takes it from a field and back', () => {
  const iso = dateTimeFromField('2026-11-30T08:05')!;
  expect(dateTimeToField(iso)).toBe('2026-11-30T08:05');
  expect(dateTimeInWords(iso)).toMatch(/^Monday,? 30 November at 08:05$/);
  expect([dateTimeFromField(''), dateTimeFromField('soon'), dateTimeToField(null)]).toEqual([
    ...[null, null, ''],
  ]);
});
