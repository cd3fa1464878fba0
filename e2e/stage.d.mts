import type { Browser, Page } from 'puppeteer-core';

export interface App {
  readonly address: string;
  /** Folder of footage and prints. */
  readonly media: string;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers of many shapes are looked into
  api(path: string, init?: RequestInit): Promise<any>;
  close(): Promise<void>;
}

export interface PictureRead {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly means: readonly [number, number, number];
}

export function openApp(databaseUrl: string, options?: { from?: string; keep?: boolean }): Promise<App>;
export function withDatabase(url: string, sql: string): Promise<void>;
export function openBrowser(): Promise<{ browser: Browser; shown(): Promise<string>; close(): Promise<void> }>;
export function pictureOf(page: Page, label?: string): Promise<PictureRead>;
