import type { Engine, Kernels } from '../engine';
import { DOMAIN_ROWS } from '../frame/domain-rows';
import { LUMA_WEIGHTS } from '../frame/encoding';
import { rowAt, type Surface } from '../frame/surface';
import type { Domain } from '../traits/trait';

const CHANGES: Readonly<Record<string, (k: Kernels, row: number, count: number) => void>> = DOMAIN_ROWS;

/** The rows of matrix and offsets that `matrixRow` takes. */
function matrices(): Record<string, number[]> {
  const { kr, kb } = LUMA_WEIGHTS.bt601;
  const kg = 1 - kr - kb;
  const [u, v] = [2 * (1 - kb), 2 * (1 - kr)];
  return {
    'display>video': [kr, kg, kb, -kr / u, -kg / u, (1 - kb) / u, (1 - kr) / v, -kg / v, -kb / v, 0, 0, 0],
    'video>display': [1, 0, v, 1, (-kb * u) / kg, (-kr * v) / kg, 1, u, 0, 0, 0, 0],
  };
}

/** The changes that lead from one domain to another: one, or two by way of `display`; a recorder is reached by way of `video`. */
export function domainPath(from: Domain, to: Domain): [Domain, Domain][] {
  if (from === to) return [];
  if (to === 'rf') return [...domainPath(from, 'video'), ['video', 'rf']];
  if (from === 'rf') return [['rf', 'video'], ...domainPath('video', to)];
  if (`${from}>${to}` in CHANGES || from === 'display' || to === 'display') return [[from, to]];
  return [
    [from, 'display'],
    ['display', to],
  ];
}

/** Changes the domain of rows in place. */
export class DomainChanger {
  private readonly matrices: Record<string, number>;

  constructor(
    private readonly engine: Engine,
    reserve: (bytes: number) => number,
  ) {
    this.matrices = Object.fromEntries(
      Object.entries(matrices()).map(([name, m]) => {
        const at = reserve(48);
        engine.floats(at, 12).set(m);
        return [name, at];
      }),
    );
  }

  /** One change that `domainPath` names. */
  run(surface: Surface, from: Domain, to: Domain): void {
    const k = this.engine.kernels;
    const name = `${from}>${to}`;
    const matrix = this.matrices[name];
    const change = CHANGES[name]!;
    for (let y = surface.top; y < surface.bottom; y++) {
      if (matrix !== undefined) k.matrixRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), surface.width, matrix);
      else for (let plane = 0; plane < 3; plane++) change(k, rowAt(surface, plane, y), surface.width);
    }
  }

  /** One row of some other signal, such as luma, to `display`. `video` luma is display already. */
  toDisplay(row: number, count: number, from: Domain): void {
    if (from !== 'display' && from !== 'video') CHANGES[`${from}>display`]!(this.engine.kernels, row, count);
  }
}
