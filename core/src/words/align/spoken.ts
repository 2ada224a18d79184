const ONES =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  );
const TENS = '- - twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
const SIGNS: Readonly<Record<string, string>> = {
  '%': 'percent',
  '&': 'and',
  '+': 'plus',
  '=': 'equals',
  '°': 'degrees',
  '€': 'euros',
  '£': 'pounds',
  $: 'dollars',
};

/** A whole number below a million million as it is said in English. */
const numberWords = (value: number): string[] => {
  if (value < 20) return [ONES[value]!];
  if (value < 100) {
    return [TENS[Math.floor(value / 10)]!, ...(value % 10 ? [ONES[value % 10]!] : [])];
  }
  for (const [size, name] of [
    [1e9, 'billion'],
    [1e6, 'million'],
    [1e3, 'thousand'],
    [100, 'hundred'],
  ] as const) {
    if (value < size) continue;
    const rest = value % size;
    return [...numberWords(Math.floor(value / size)), name, ...(rest ? numberWords(rest) : [])];
  }
  return [];
};

/** Digits as they are said: as a number, or one by one where it is too long for one. `1990` is said as a year. */
const digitsWords = (digits: string): string[] => {
  if (digits.length > 9 || /^0\d/.test(digits)) return [...digits].map((one) => ONES[Number(one)]!);
  const value = Number(digits);
  if (value >= 1100 && value < 2000 && value % 100 !== 0) {
    const [first, last] = [Math.floor(value / 100), value % 100];
    return [...numberWords(first), ...(last < 10 ? ['oh'] : []), ...numberWords(last)];
  }
  return numberWords(value);
};

/**
 * The words that a written word is said as in English, small and without signs: `3.5 m` is written, `three point five m` said. None
 * for what isn't said at all, like a dash.
 */
export const spokenWords = (written: string): string[] => {
  const plain = written.toLowerCase().replace(/[’‘]/g, "'");
  const found: string[] = [];
  for (const [part] of plain.matchAll(
    /\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:\.\d+)?|\p{L}[\p{L}\p{M}']*|[%&+=°€£$]/gu,
  )) {
    if (/^\d/.test(part)) {
      const [whole, fraction] = part.split('.') as [string, string | undefined];
      // With commas it is a number, and no year.
      found.push(
        ...(whole.includes(',')
          ? numberWords(Number(whole.replaceAll(',', '')))
          : digitsWords(whole)),
      );
      if (fraction) found.push('point', ...[...fraction].map((one) => ONES[Number(one)]!));
    } else if (SIGNS[part]) found.push(SIGNS[part]);
    else found.push(part.replace(/^'+|'+$/g, ''));
  }
  return found.filter(Boolean);
};
