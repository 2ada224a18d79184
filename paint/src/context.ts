import type { MaterialPage } from '@under-chalk/core/material/material';
import type { PictureLayer } from '@under-chalk/core/scene/layers/picture';

/**
 * The part of a Canvas 2D context that the painter uses, so that a browser's canvas, an offscreen one
 * in a worker and the server's Skia canvas all fit. `P` is what that canvas can draw as a picture.
 */
export interface Context2D<P> {
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineCap: unknown;
  lineJoin: unknown;
  globalAlpha: number;
  font: string;
  textAlign: unknown;
  textBaseline: unknown;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: unknown;
  save(): void;
  restore(): void;
  translate(x: number, y: number): void;
  scale(x: number, y: number): void;
  beginPath(): void;
  closePath(): void;
  clip(): void;
  fill(): void;
  stroke(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(controlX: number, controlY: number, x: number, y: number): void;
  arcTo(x1: number, y1: number, x2: number, y2: number, radius: number): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  clearRect(x: number, y: number, width: number, height: number): void;
  fillText(text: string, x: number, y: number): void;
  strokeText(text: string, x: number, y: number): void;
  createLinearGradient(
    fromX: number,
    fromY: number,
    toX: number,
    toY: number,
  ): { addColorStop(part: number, colour: string): void };
  measureText(text: string): { readonly width: number };
  drawImage(
    picture: P,
    fromX: number,
    fromY: number,
    fromWidth: number,
    fromHeight: number,
    toX: number,
    toY: number,
    toWidth: number,
    toHeight: number,
  ): void;
}

/** A decoded picture and its size as shown, in px. */
export interface Picture<P> {
  readonly image: P;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Finds the picture that a layer asks for, of its track and its time; undefined while it isn't there. */
export type PictureOf<P> = (layer: PictureLayer) => Picture<P> | undefined;

/**
 * Finds the picture of a material's page, as wide as it is shown (px) or the nearest there is; undefined while there is
 * none.
 */
export type PageOf<P> = (page: MaterialPage, shownPx: number) => Picture<P> | undefined;

export const NO_PAGES: PageOf<never> = () => undefined;
