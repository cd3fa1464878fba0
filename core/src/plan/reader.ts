import type { Engine } from '../engine';
import type { ColourTable } from '../formats/cube';
import type { Importer } from '../frame/import';
import { ScaledImporter, type Part } from '../frame/scaled-import';
import type { SincWindow } from '../frame/resample';
import type { Surface } from '../frame/surface';
import { TurnedImporter, type Placing } from '../frame/turned-import';
import { inputColour, needsColour, type InputColour } from '../shot/input-colour';
import { framingAt, heldFraming, partSize, turnedSize, WHOLE, type Framing, type Preparation } from '../shot/preparation';
import { sizeKey, type Size } from '../score/size';
import type { Work } from './work';

/** The widest picture that is worked on. */
const WIDEST = 16384;

/**
 * The first step of every route: the footage as a file has it becomes a picture of some size in display values, framed, turned and
 * coloured as the shot's preparation says.
 */
export class Reader {
  private readonly scaled = new Map<string, ScaledImporter>();
  private turned: TurnedImporter | undefined;
  private colour: InputColour | undefined;
  private framing: Framing = WHOLE;

  /** @param out size of the result, whose shape the framing fills */
  constructor(
    private readonly engine: Engine,
    private readonly importer: Importer,
    private readonly out: Size,
    private readonly preparation: Preparation,
    private readonly table: (id: string) => ColourTable | undefined,
  ) {}

  release(): void {
    for (const importer of this.scaled.values()) importer.release();
    this.turned?.release();
    this.colour?.release();
  }

  /** Chooses the moment of the shot whose framing is read from now on. */
  at(seconds: number): void {
    const { preparation, shape } = this;
    const wanted = framingAt(preparation, seconds);
    this.framing = preparation.beyond ? wanted : heldFraming(turnedSize(this.importer, preparation), shape, wanted, this.maths);
  }

  /** Whether nothing is done but changing the coding. */
  get untouched(): boolean {
    return this.level && !this.preparation.moves?.length && isWhole(this.preparation.framing ?? WHOLE) && !needsColour(this.preparation);
  }

  /** What reads the footage as a picture of `size`. @param window of the filter across, into a line raster */
  work(size: Size, window: SincWindow): Work {
    const colour = this.inputColour();
    const whole = this.level && !this.preparation.moves?.length && isWhole(this.preparation.framing ?? WHOLE);
    const sameSize = this.importer.width === size.width && this.importer.height === size.height;
    const sameShape = sizeKey(size) === sizeKey(this.out) || this.importer.width * this.out.height === this.importer.height * this.out.width;
    if (whole && sameSize && sameShape)
      return { name: 'read', domain: 'display', footprint: 'point', size, run: (surface) => this.finish(surface, colour, () => this.importer.run(surface)) };
    if (this.level) {
      const flat = sizeKey(size) === sizeKey(this.out) ? undefined : window;
      const key = `${sizeKey(size)},${flat?.reach}`;
      const reader = this.scaled.get(key) ?? new ScaledImporter(this.engine, this.importer, size.width, size.height, flat);
      this.scaled.set(key, reader);
      const run = (surface: Surface): void => {
        reader.take(this.part());
        this.finish(surface, colour, () => reader.run(surface));
      };
      return { name: 'read and resize', domain: 'display', footprint: 'point', size, run };
    }
    this.turned ??= new TurnedImporter(this.engine, this.importer);
    const { turned } = this;
    return { name: 'read and turn', domain: 'display', footprint: 'area', size, run: (surface) => this.finish(surface, colour, () => turned.run(surface, this.placing(size))) };
  }

  /** Neither turned nor mirrored, nor looking past the edges. */
  private get level(): boolean {
    const { mirror, quarter, beyond, framing, moves } = this.preparation;
    return !mirror && !quarter && !beyond && (framing?.turn ?? 0) === 0 && !moves?.some((m) => m.turn !== 0);
  }

  private get shape(): number {
    return this.out.width / this.out.height;
  }

  private get maths() {
    const { sin, cos } = this.engine.kernels;
    return { sin, cos };
  }

  private finish(surface: Surface, colour: InputColour | undefined, read: () => void): void {
    read();
    colour?.run(surface);
  }

  private inputColour(): InputColour | undefined {
    const { table } = this.preparation;
    return (this.colour ??= inputColour(this.engine, this.preparation, WIDEST, table ? this.table(table) : undefined));
  }

  private part(): Part {
    const { width, height } = this.importer;
    const { x, y, scale } = this.framing;
    const part = partSize({ width, height }, this.shape, scale);
    return { left: x * width - part.width / 2, top: y * height - part.height / 2, ...part };
  }

  private placing(size: Size): Placing {
    const { preparation } = this;
    const { quarter = 0, mirror } = preparation;
    const turned = turnedSize(this.importer, preparation);
    const { x, y, scale, turn } = this.framing;
    const part = partSize(turned, this.shape, scale);
    const angle = (turn * Math.PI) / 180;
    const [c, s] = [this.engine.kernels.cos(angle), this.engine.kernels.sin(angle)];
    const [sx, sy] = [(mirror ? -part.width : part.width) / size.width, part.height / size.height];
    // The footage turns clockwise, so the place it is read at turns the other way.
    const vector = (u: number, v: number): [number, number] => this.unturned(c * u + s * v, -s * u + c * v, quarter);
    const [mx, my] = this.unturned(x * turned.width - turned.width / 2, y * turned.height - turned.height / 2, quarter);
    return { x: this.importer.width / 2 + mx, y: this.importer.height / 2 + my, right: vector(sx, 0), down: vector(0, sy), black: preparation.beyond === true };
  }

  /** A vector on the quarter-turned footage as it lies on the footage itself. */
  private unturned(x: number, y: number, quarter: number): [number, number] {
    if (quarter === 1) return [y, -x];
    if (quarter === 2) return [-x, -y];
    return quarter === 3 ? [-y, x] : [x, y];
  }
}

const isWhole = ({ x, y, scale, turn }: Framing): boolean => x === WHOLE.x && y === WHOLE.y && scale === WHOLE.scale && turn === WHOLE.turn;
