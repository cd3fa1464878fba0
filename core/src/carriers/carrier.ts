/** What a picture was recorded on and is played from; gives the units of settings their size. */
export interface Carrier {
  readonly id: string;
  readonly name: string;
  /** One line for a person choosing. */
  readonly says: string;
  readonly medium: 'film' | 'tape' | 'air' | 'none';
  /** Projected part of the gate in millimetres; absent where there is none. */
  readonly gate?: { readonly width: number; readonly height: number };
  /** Usual unsteadiness of its picture: RMS in hundredths of the height. */
  readonly unsteadiness?: number;
  /** Of film: how it is perforated. */
  readonly film?: Film;
  /** Lines and samples a line that the picture is held in; absent where there is no raster. */
  readonly raster?: Raster;
  /** Of tape: how a recorder lays the picture on it. */
  readonly recorder?: Recorder;
  /** Usual pictures a second; absent where it has none of its own. */
  readonly rate?: number;
}

/** How a recorder lays luma on tape: by FM, behind an emphasis of what is fine. */
export interface Recorder {
  /** Megahertz of the carrier at the tip of the synchronising pulse and at peak white. */
  readonly sync: number;
  readonly white: number;
  /** Luma that is left at this speed, in megahertz. */
  readonly luma: number;
}

/** Film about its pictures, in millimetres: nominal dimensions of its gauge. */
export interface Film {
  /** From a picture to the next, along the film. */
  readonly pitch: number;
  /** Middles of the perforations of a picture, from the middle of the picture to the right and down. */
  readonly perforations: readonly { readonly x: number; readonly y: number }[];
  readonly perforation: { readonly width: number; readonly height: number };
  /** Edges of the film, from the middle of the picture. */
  readonly edges: { readonly left: number; readonly right: number };
}

/** A line raster: samples at 13.5 MHz by visible lines (ITU-R BT.601), and what a line and its colour take. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  /** Of one line with its blanking. */
  readonly lineMicroseconds: number;
  readonly subcarrierMegahertz: number;
}

/** 525 lines, 59.94 fields a second. */
export const LINES_525: Raster = { width: 720, height: 486, lineMicroseconds: 63.556, subcarrierMegahertz: 3.579545 };
/** 625 lines, 50 fields a second. */
export const LINES_625: Raster = { width: 720, height: 576, lineMicroseconds: 64, subcarrierMegahertz: 4.43361875 };
export const RATE_525 = 30000 / 1001;
export const RATE_625 = 25;
