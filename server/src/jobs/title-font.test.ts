import { signsWithoutLetters } from '@under-chalk/core/text/title-letters';
import { openSync } from 'fontkit';

describe('the letters of titles', () => {
  it.each([
    'Springs & neaps: 5½ m, “twelfths” – 40 °',
    'Cwrs cyntaf ŵ ŷ',
    'Čtvrtý týden, Łódź, Ñandú, İstanbul, naïve',
    'Тридцять друга; Ґанок, Їжак',
    'Tiếng Việt: thủy triều',
  ])('have what is written so: %s', (text) => expect(signsWithoutLetters(text)).toEqual([]));

  it('have none for other scripts, and say which', () => {
    expect(signsWithoutLetters('Η παλίρροια, 2 m')).toEqual([...'Ηπαλίροι']);
    expect(signsWithoutLetters('مد')).toEqual(['م', 'د']);
    expect(signsWithoutLetters('潮 ⚓')).toEqual(['潮', '⚓']);
  });

  it('are those of the font that ships: whatever is told of is in it', () => {
    const font = openSync(
      require.resolve('@expo-google-fonts/bitter/600SemiBold/Bitter_600SemiBold.ttf'),
    );
    const has = new Set('characterSet' in font ? font.characterSet : []);
    const told = Array.from({ length: 0x3000 }, (_, code) => String.fromCodePoint(code)).filter(
      (sign) => sign.trim() !== '' && sign.normalize('NFC') === sign && sign !== '\u00ad',
    );
    const kept = told.filter((sign) => signsWithoutLetters(sign).length === 0);
    expect(kept.length).toBeGreaterThan(600);
    expect(kept.filter((sign) => !has.has(sign.codePointAt(0)!))).toEqual([]);
  });
});
