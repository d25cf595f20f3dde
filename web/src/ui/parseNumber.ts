/**
 * A typed number: with or without a unit, also as a simple sum ("12 + 3", "-40/2 px", "15 % * 2").
 * @returns null when it is not a number
 */
export function parseNumber(text: string): number | null {
  const plain = text
    .replaceAll('−', '-')
    .replaceAll(',', '.')
    .replace(/(px|%|°|\s)/g, '');
  if (/\d\s+[\d.]/.test(text.trim())) return null; // two numbers
  const token = /^([+-]?\d*\.?\d+)/;
  let rest = plain;
  const number = (): number | null => {
    const match = token.exec(rest);
    if (!match) return null;
    rest = rest.slice(match[0].length);
    return Number(match[1]);
  };
  const product = (): number | null => {
    let value = number();
    while (value !== null && (rest.startsWith('*') || rest.startsWith('/'))) {
      const divide = rest.startsWith('/');
      rest = rest.slice(1);
      const next = number();
      if (next === null || (divide && next === 0)) return null;
      value = divide ? value / next : value * next;
    }
    return value;
  };
  let sum = product();
  while (sum !== null && rest !== '') {
    if (!/^[+-]/.test(rest)) return null;
    const minus = rest.startsWith('-');
    rest = rest.slice(1);
    const next = product();
    if (next === null) return null;
    sum += minus ? -next : next;
  }
  return sum;
}
