/** The value of a sum as one types it: numbers, + - * / and brackets. Undefined where it is none. */
export function evaluate(text: string): number | undefined {
  const tokens = text.replaceAll(',', '.').match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[-+*/()]|\S/gi) ?? [];
  let at = 0;
  const factor = (): number => {
    const token = tokens[at++];
    if (token === '-') return -factor();
    if (token === '+') return factor();
    if (token === '(') {
      const inner = sum();
      return tokens[at++] === ')' ? inner : Number.NaN;
    }
    return token !== undefined && /^[\d.]/.test(token) ? Number(token) : Number.NaN;
  };
  const product = (): number => {
    let value = factor();
    while (tokens[at] === '*' || tokens[at] === '/') value = tokens[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const sum = (): number => {
    let value = product();
    while (tokens[at] === '+' || tokens[at] === '-') value = tokens[at++] === '+' ? value + product() : value - product();
    return value;
  };
  const value = sum();
  return at === tokens.length && Number.isFinite(value) ? value : undefined;
}
