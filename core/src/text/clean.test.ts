import { planSchema } from '../lesson/plan';
import { cleanLine, cleanText } from './clean';

it('takes out what can’t be seen and misleads', () => {
  expect(cleanText('Tide\u0000 heights\u202e 4pm.mp4')).toBe('Tide heights 4pm.mp4');
  expect(cleanText('half \ud83d of it, and \ude00')).toBe('half  of it, and ');
});
it('leaves what people write as it is', () => {
  for (const text of ['Ebbe & Flut „%“', '潮汐', 'مد وجزر', '👩‍🏫 tides', 'a\tb\nc', 'שפל']) {
    expect(cleanText(text)).toBe(text);
  }
});
it('makes one line of several', () => expect(cleanLine('Tide\r\n heights')).toBe('Tide heights'));

it('is done at the border', () => {
  const plan = { title: ' Tide\u0000\u202eheights ', description: '', className: '', unit: '' };
  expect(planSchema.parse({ ...plan, destinationId: 'anywhere' }).title).toBe('Tideheights');
});
