/** What may be opened as footage, and how programs are told to open it. */
import { constants } from 'node:fs';
import { access, open, stat } from 'node:fs/promises';
import { extname, resolve } from 'node:path';
import { InputError } from './errors';
import { LOCAL_ONLY } from './process';
import { LARGEST_PIXELS } from './footage';

/** Formats that hold their own pictures. Lists, and all that names other files, are not among them: they are refused before they are opened. */
const FORMATS = [
  ...['mov', 'matroska', 'avi', 'mpegts', 'mpeg', 'mpegvideo', 'm4v', 'h264', 'hevc', 'obu', 'ivf', 'flv', 'asf', 'mxf', 'gxf', 'dv', 'ogg', 'nut', 'rm'],
  ...['yuv4mpegpipe', 'gif', 'gif_pipe', 'apng', 'mjpeg', 'mjpeg_2000', 'lxf', 'wtv', 'vc1', 'dnxhd', 'image2', 'dpx_pipe', 'exr_pipe', 'png_pipe', 'jpeg_pipe'],
  ...['jpegls_pipe', 'jpegxl_pipe', 'j2k_pipe', 'tiff_pipe', 'bmp_pipe', 'webp_pipe', 'psd_pipe', 'qoi_pipe', 'sgi_pipe', 'sunrast_pipe', 'pcx_pipe', 'pam_pipe'],
  ...['pbm_pipe', 'pgm_pipe', 'pgmyuv_pipe', 'ppm_pipe', 'pfm_pipe', 'phm_pipe', 'dds_pipe', 'xbm_pipe', 'xpm_pipe'],
  // Sound alone is opened too, so that it can be said what it is.
  ...['wav', 'aac', 'mp3', 'flac', 'aiff', 'caf'],
];

/** Of every program that opens footage: local files, in formats that hold their own pictures, of no more pixels than can be worked on. */
export const CAREFUL = [...LOCAL_ONLY, '-format_whitelist', FORMATS.join(','), '-max_pixels', String(LARGEST_PIXELS)] as const;

/** ffmpeg takes an image's name with a percent sign for a pattern of many. */
const IMAGE = /\.(png|jpe?g|tiff?|bmp|webp|dpx|exr|tga|gif|j2k|jp2|jxl|p[bgpna]m|pfm|sgi|rgb|psd|qoi|pcx|xbm|xpm|dds|ras|sun|im\d+)$/i;

/** Arguments that open this very file. */
export const fileInput = (path: string): string[] => [...CAREFUL, ...(path.includes('%') && IMAGE.test(path) ? ['-f', 'image2', '-pattern_type', 'none'] : []), '-i', path];

const HEAD_BYTES = 4096;
/** Of formats of pictures that begin as text. */
const TEXTUAL = /^(?:P[1-7fFhH]\s|YUV4MPEG2 |\/\* XPM|#define \w+_width)/;

/** Why what a file begins with cannot be footage, or undefined. */
export function noFootage(head: Buffer): string | undefined {
  const latin = head.toString('latin1');
  if (latin.startsWith('%PDF') || latin.startsWith('%!PS')) return 'a document, not footage';
  if (latin.startsWith('\x1f\x8b') || latin.startsWith('BZh') || latin.startsWith('\xfd7zXZ') || latin.startsWith('7z\xbc')) return 'a packed file, not footage';
  if (latin.startsWith('PK\x03\x04')) return 'a zip; give it the ending .zip where it holds the images of a sequence';
  const wide = latin.startsWith('\xff\xfe') || latin.startsWith('\xfe\xff');
  const text = wide ? head.toString('utf16le') : latin.replace(/^\xef\xbb\xbf/, '');
  if (TEXTUAL.test(text)) return undefined;
  // Text has none of these, footage has.
  if (!wide && /[\x00-\x08\x0e-\x1a\x1c-\x1f]/.test(latin)) return undefined;
  if (/<svg[\s>]/i.test(text)) return 'a drawing (SVG), not footage';
  return 'a text or a list, not footage';
}

/**
 * Checks that a file may be opened as footage, by what it begins with.
 * @returns its absolute path
 * @throws InputError that calls it `name`
 */
export async function footageFile(path: string, name: string): Promise<string> {
  const file = resolve(path);
  const found = await stat(file).catch((error: NodeJS.ErrnoException) => {
    throw new InputError(name, error.code === 'EACCES' ? 'it cannot be read: permission was denied' : 'there is no such file');
  });
  if (!found.isFile()) throw new InputError(name, found.isDirectory() ? 'it is a folder, not a file' : 'is no file');
  if (found.size === 0) throw new InputError(name, 'the file is empty (0 bytes)');
  await access(file, constants.R_OK).catch(() => {
    throw new InputError(name, 'it cannot be read: permission was denied');
  });
  const handle = await open(file);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    const why = ['.svg', '.svgz'].includes(extname(name).toLowerCase()) ? 'a drawing (SVG), not footage' : noFootage(buffer.subarray(0, bytesRead));
    if (why) throw new InputError(name, why);
  } finally {
    await handle.close();
  }
  return file;
}
