/** ASC Color Decision Lists: .cdl, .ccc and .cc (version 1.2). */

type Triple = readonly [number, number, number];

/** One correction. Each channel: (in x slope + offset), held to 0..1, to the power; then saturation by BT.709 luma. */
export interface Cdl {
  readonly id: string;
  readonly slope: Triple;
  readonly offset: Triple;
  readonly power: Triple;
  readonly saturation: number;
}

export type CdlKind = 'cdl' | 'ccc' | 'cc';

const escaped = (text: string): string => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const numbers = (list: readonly number[]): string => list.map((v) => String(Number(v.toFixed(6)))).join(' ');

function correction({ id, slope, offset, power, saturation }: Cdl, indent: string, extra = ''): string {
  const lines = [
    `<ColorCorrection${extra} id="${escaped(id)}">`,
    '  <SOPNode>',
    `    <Slope>${numbers(slope)}</Slope>`,
    `    <Offset>${numbers(offset)}</Offset>`,
    `    <Power>${numbers(power)}</Power>`,
    '  </SOPNode>',
    '  <SatNode>',
    `    <Saturation>${numbers([saturation])}</Saturation>`,
    '  </SatNode>',
    '</ColorCorrection>',
  ];
  return lines.map((line) => indent + line).join('\n');
}

/** The text of a file of corrections. @throws RangeError where a .cc is to hold more than one */
export function cdlText(list: readonly Cdl[], kind: CdlKind): string {
  const head = '<?xml version="1.0" encoding="UTF-8"?>\n';
  const space = ' xmlns="urn:ASC:CDL:v1.2"';
  if (kind === 'cc') {
    if (list.length !== 1) throw new RangeError(`a .cc file holds one correction, not ${list.length}`);
    return `${head}${correction(list[0]!, '', space)}\n`;
  }
  if (kind === 'ccc') return `${head}<ColorCorrectionCollection${space}>\n${list.map((c) => correction(c, '  ')).join('\n')}\n</ColorCorrectionCollection>\n`;
  const decisions = list.map((c) => `  <ColorDecision>\n${correction(c, '    ')}\n  </ColorDecision>`).join('\n');
  return `${head}<ColorDecisionList${space}>\n${decisions}\n</ColorDecisionList>\n`;
}
