import { scaleLinear } from 'd3-scale';
import type { UvMap } from '@itchkit/core/geometry';

/** Degrees from the hue of one island to that of the next: the golden angle, so that neighbours differ. */
const HUE = 137.5;
/** Room around the square and what reaches out of it, as a share. */
const MARGIN = 0.05;

/**
 * Draws UVs on a canvas: the unit square with its picture, islands in hues, overlaps and what is outside in colours of the theme. v runs
 * down, as glTF has it.
 */
export function drawUvMap(canvas: HTMLCanvasElement, map: UvMap, picture: ImageBitmap | null, style: CSSStyleDeclaration): void {
  const context = canvas.getContext('2d')!;
  const colour = (name: string, otherwise: string) => style.getPropertyValue(`--mui-palette-kit-${name}`).trim() || otherwise;
  const ink = colour('ink', '#1b2a32');
  let low = 0;
  let high = 1;
  for (const value of map.corners) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  const room = MARGIN * (high - low);
  const at = scaleLinear()
    .domain([low - room, high + room])
    .range([0, canvas.width]);
  context.fillStyle = colour('paper', '#f2ede2');
  context.fillRect(0, 0, canvas.width, canvas.height);
  if (picture) context.drawImage(picture, at(0), at(0), at(1) - at(0), at(1) - at(0));
  const triangle = (t: number) => {
    context.beginPath();
    for (let k = 0; k < 3; k++) context.lineTo(at(map.corners[6 * t + 2 * k]), at(map.corners[6 * t + 2 * k + 1]));
    context.closePath();
  };
  const count = map.islandOf.length;
  for (let t = 0; t < count; t++) {
    triangle(t);
    context.fillStyle = map.outside[t] ? colour('warn', '#8f5f0f') : `hsl(${(map.islandOf[t] * HUE) % 360} 55% 50%)`;
    context.globalAlpha = map.outside[t] ? 0.6 : 0.28;
    context.fill();
    context.globalAlpha = 0.7;
    context.lineWidth = 1;
    context.strokeStyle = ink;
    context.stroke();
  }
  drawOverlaps(context, map, at, colour('stop', '#ae2a1e'));
  context.globalAlpha = 1;
  context.lineWidth = 3;
  context.strokeStyle = ink;
  context.strokeRect(at(0), at(0), at(1) - at(0), at(1) - at(0));
}

function drawOverlaps(context: CanvasRenderingContext2D, { cells }: UvMap, at: (value: number) => number, colour: string): void {
  const side = Math.sqrt(cells.length);
  const size = (at(1) - at(0)) / side;
  context.fillStyle = colour;
  context.globalAlpha = 0.65;
  for (let i = 0; i < cells.length; i++)
    if (cells[i] > 1) context.fillRect(at((i % side) / side), at(Math.floor(i / side) / side), size + 0.5, size + 0.5);
}
