import type { Key } from '../motion/motion';
import { keyed } from '../motion/motion';
import type { InputCurve, InputPrimaries } from './curves';

/** Which part of the footage fills the picture. */
export interface Framing {
  /** Middle of the part, in shares of the footage's width and height. */
  readonly x: number;
  readonly y: number;
  /** 1: the largest part of the picture's shape; 2: half as wide. Below 1 the footage's edges are seen. */
  readonly scale: number;
  /** Degrees by which the footage is turned clockwise, to straighten it. */
  readonly turn: number;
}

export const WHOLE: Framing = { x: 0.5, y: 0.5, scale: 1, turn: 0 };

/** How pictures come about between those of the footage. */
export const BETWEEN = ['repeat', 'blend', 'motion'] as const;
export type Between = (typeof BETWEEN)[number];

/** What is done to a shot before its look: none of it is wear. What is left out leaves the footage as it is. */
export interface Preparation {
  /** Pictures of the footage: the first, and the one after the last. */
  readonly trim?: { readonly from: number; readonly to: number };
  /** 1 as shot; within `SPEED_LIMITS`. */
  readonly speed?: number;
  readonly between?: Between;
  /** What the footage's values mean. */
  readonly curve?: InputCurve;
  readonly primaries?: InputPrimaries;
  /** Identity of a .cube table that brings the footage to display, in place of a curve. */
  readonly table?: string;
  /** Width over height of the picture; default the footage's. */
  readonly shape?: number;
  readonly framing?: Framing;
  /** Framings at moments (seconds of the prepared shot) between which it moves; in place of `framing`. */
  readonly moves?: readonly FramingKey[];
  readonly mirror?: boolean;
  /** Quarter turns clockwise. */
  readonly quarter?: 0 | 1 | 2 | 3;
  /** Allows the framing past the footage's edges, which are then black. */
  readonly beyond?: boolean;
}

export interface FramingKey extends Framing {
  readonly at: number;
  readonly ease?: Key['ease'];
}

/** The least and the most that the speed of a shot can be. */
export const SPEED_LIMITS = [0.25, 4] as const;

export const AS_SHOT: Preparation = {};

/** Shapes by name. */
export const SHAPES: readonly { readonly name: string; readonly shape: number }[] = [
  { name: '1 : 1', shape: 1 },
  { name: '1.19', shape: 1.19 },
  { name: '4 : 3', shape: 4 / 3 },
  { name: '1.37', shape: 1.37 },
  { name: '1.66', shape: 1.66 },
  { name: '1.78', shape: 16 / 9 },
  { name: '1.85', shape: 1.85 },
  { name: '2.39', shape: 2.39 },
];

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The footage's size after its quarter turns. */
export const turnedSize = ({ width, height }: Size, { quarter = 0 }: Preparation): Size => (quarter % 2 ? { width: height, height: width } : { width, height });

/** The prepared picture's size: the largest of its shape that the footage holds, in whole pixels. */
export function preparedSize(footage: Size, preparation: Preparation): Size {
  const { width, height } = turnedSize(footage, preparation);
  const { shape } = preparation;
  if (!shape || Math.abs(shape - width / height) < 1e-6) return { width, height };
  const wide = Math.min(width, height * shape);
  return { width: Math.max(1, Math.round(wide)), height: Math.max(1, Math.round(wide / shape)) };
}

/** Pictures of the prepared shot. @param frames pictures of the footage */
export function preparedFrames(frames: number, { trim, speed = 1 }: Preparation): number {
  const { from, to } = trimOf(frames, trim);
  return Math.max(1, Math.floor((to - from) / speed + 1e-9));
}

function trimOf(frames: number, trim: Preparation['trim']): { from: number; to: number } {
  const from = Math.max(0, Math.min(frames - 1, trim?.from ?? 0));
  return { from, to: Math.max(from + 1, Math.min(frames, trim?.to ?? frames)) };
}

/** A picture of the footage and its share in a picture of the shot. */
export interface Part {
  readonly picture: number;
  readonly share: number;
}

/**
 * The pictures of the footage that make picture `n` of the prepared shot, by rising number; their shares sum to 1. One where pictures
 * are repeated; else the two about its moment or, where the footage runs fast, all that pass in the time of a picture.
 * @param frames pictures of the footage @param n may lie between two pictures of the shot: then both share in it
 */
export function footageParts(frames: number, preparation: Preparation, n: number): Part[] {
  const { speed = 1, between = 'repeat' } = preparation;
  const { from, to } = trimOf(frames, preparation.trim);
  const last = to - 1;
  const at = from + n * speed;
  const whole = Math.min(last, Math.floor(at + 1e-9));
  if (Number.isInteger(n) && (between === 'repeat' || Math.abs(speed - 1) < 1e-9)) return [{ picture: whole, share: 1 }];
  if (speed > 1 && between === 'blend') {
    const parts: Part[] = [];
    for (let p = whole; p < at + speed - 1e-9; p++) {
      const share = (Math.min(p + 1, at + speed) - Math.max(p, at)) / speed;
      if (share > 1e-9) parts.push({ picture: Math.min(last, p), share });
    }
    const sum = parts.reduce((a, part) => a + part.share, 0);
    return joined(parts.map((part) => ({ ...part, share: part.share / sum })));
  }
  const share = at - whole;
  if (share < 1e-6 || whole >= last) return [{ picture: whole, share: 1 }];
  return [
    { picture: whole, share: 1 - share },
    { picture: whole + 1, share },
  ];
}

/** Whether things are led along their way where two pictures of the footage share in one: unless they are asked to fade, as where a picture was made between two that are else repeated. */
export const ledBetweenParts = ({ between }: Preparation): boolean => between !== 'blend';

function joined(parts: readonly Part[]): Part[] {
  const out: Part[] = [];
  for (const part of parts) {
    const before = out.at(-1);
    if (before?.picture === part.picture) out[out.length - 1] = { ...before, share: before.share + part.share };
    else out.push(part);
  }
  return out;
}

/** The framing at a moment of the shot, before it is held to the footage. */
export function framingAt({ framing, moves }: Preparation, seconds: number): Framing {
  if (!moves?.length) return framing ?? WHOLE;
  const of = (key: keyof Framing): number =>
    keyed(
      moves.map((m) => ({ at: m.at, value: m[key], ease: m.ease })),
      seconds,
      0,
    );
  return { x: of('x'), y: of('y'), scale: of('scale'), turn: of('turn') };
}

/** Width and height of the part a framing takes, in pixels of the (quarter-turned) footage. */
export function partSize(size: Size, shape: number, scale: number): Size {
  const width = Math.min(size.width, size.height * shape) / scale;
  return { width, height: width / shape };
}

/**
 * A framing held so that it nowhere looks past the footage's edges: first enlarged, then moved.
 * @param maths the engine's own where the result reaches a picture
 */
export function heldFraming(size: Size, shape: number, framing: Framing, maths: { sin(x: number): number; cos(x: number): number } = Math): Framing {
  const turn = (framing.turn * Math.PI) / 180;
  const [c, s] = [Math.abs(maths.cos(turn)), Math.abs(maths.sin(turn))];
  // The box about the turned part must fit the footage.
  const full = partSize(size, shape, 1);
  const least = Math.max((full.width * c + full.height * s) / size.width, (full.width * s + full.height * c) / size.height);
  const scale = Math.max(framing.scale, least);
  const part = partSize(size, shape, scale);
  const [halfX, halfY] = [(part.width * c + part.height * s) / 2 / size.width, (part.width * s + part.height * c) / 2 / size.height];
  const hold = (v: number, half: number): number => (half >= 0.5 - 1e-9 ? 0.5 : Math.min(1 - half, Math.max(half, v)));
  return { x: hold(framing.x, halfX), y: hold(framing.y, halfY), scale, turn: framing.turn };
}

/** How far each number of a framing may go. */
export const FRAMING_LIMITS: Readonly<Record<keyof Framing, readonly [number, number]>> = { x: [-1, 2], y: [-1, 2], scale: [0.1, 20], turn: [-180, 180] };
