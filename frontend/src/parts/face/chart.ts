import drawing from '../../../../nabrel/core/face/drawing.json';
import type { Proportions, Zone } from '../../api/client';
import { drawn, placed } from './proportions';

/** The face map, drawn from the data file that the core draws from too; a test holds both drawings to be the same. */

export const VIEW_BOX = drawing.view.join(' ');
export const [VIEW_X, VIEW_Y, VIEW_WIDTH, VIEW_HEIGHT] = drawing.view as [number, number, number, number];
export const CLIPS = Object.entries(drawing.clips);

export interface Shape {
  zone: Zone;
  path: string;
  /** Mirrored across the middle: the sitter's left, the viewer's right. */
  mirrored: boolean;
  /** Drawn below the face outline, on neck and ears. */
  behind: boolean;
}

export const SHAPES: Shape[] = [
  ...Object.entries(drawing.paired).flatMap(([stem, path]) =>
    (['r', 'l'] as const).map((side) => ({
      zone: `${stem}_${side}` as Zone,
      path,
      mirrored: side === 'l',
      behind: drawing.behind.includes(stem),
    })),
  ),
  ...Object.entries(drawing.single).map(([zone, path]) => ({
    zone: zone as Zone,
    path,
    mirrored: false,
    behind: drawing.behind.includes(zone),
  })),
];

/** A zone of one face: its outline, moved by the proportions of that face. */
export interface Outline {
  zone: Zone;
  path: string;
}

/** Every zone of a face, in drawing order: neck and ears first. */
export function outlines(of: Proportions): Outline[] {
  return [...SHAPES]
    .sort((one, other) => Number(other.behind) - Number(one.behind))
    .map(({ zone, path, mirrored }) => ({ zone, path: drawn(path, of, mirrored) }));
}

interface MarkData {
  path?: string;
  circle?: number[];
  ellipse?: number[];
  zones?: string;
  hair?: boolean;
  both?: boolean;
  fill?: string;
  stroke?: string;
  width?: number;
  opacity?: number;
  stroke_opacity?: number;
  dash?: string;
  evenodd?: boolean;
}

interface GroupData {
  marks: MarkData[];
  clip?: 'face' | 'neck';
  blur?: number;
  opacity?: number;
  fade?: boolean;
  when?: string;
  hair_front?: boolean;
}

/** One path on this face: what it is filled and drawn with, as a paint or as the colour of a zone. */
export interface Mark {
  path: string;
  zone: Zone | null;
  fill: string;
  stroke: string;
  width: number | undefined;
  opacity: number | undefined;
  strokeOpacity: number | undefined;
  dash: string | undefined;
  evenodd: boolean;
}

export interface Group {
  marks: Mark[];
  clip: 'face' | 'neck' | undefined;
  blur: number | undefined;
  opacity: number | undefined;
  fade: boolean;
}

/** Every group of marks of this face, in drawing order. */
export function groups(of: Proportions): Group[] {
  return (drawing.groups as GroupData[])
    .filter((group) => !(group.hair_front && of.hair === 'none'))
    .filter((group) => !group.when || of.covered.some((each) => each === group.when))
    .map((group) => ({
      marks: group.marks.flatMap((mark) => marks(mark, of)),
      clip: group.clip,
      blur: group.blur,
      opacity: group.opacity,
      fade: group.fade ?? false,
    }));
}

function marks(mark: MarkData, of: Proportions): Mark[] {
  if (mark.hair) return (drawing.hair[of.hair] as MarkData[]).flatMap((each) => marks(each, of));
  if (mark.zones)
    return SHAPES.filter((shape) => layerOf(shape) === mark.zones).map((shape) => ({
      ...styled(mark),
      path: drawn(shape.path, of, shape.mirrored),
      zone: shape.zone,
    }));
  const sides = mark.both ? [false, true] : [false];
  return sides.map((mirrored) => ({ ...styled(mark), path: form(mark, of, mirrored) }));
}

function layerOf(shape: Shape): string {
  if (shape.zone.startsWith('ear')) return 'ears';
  return shape.behind ? 'behind' : 'front';
}

function styled(mark: MarkData): Omit<Mark, 'path'> {
  const zone = mark.fill?.startsWith('zone:') ? (mark.fill.slice('zone:'.length) as Zone) : null;
  return {
    zone,
    fill: zone ? '' : paint(mark.fill),
    stroke: paint(mark.stroke),
    width: mark.width,
    opacity: mark.opacity,
    strokeOpacity: mark.stroke_opacity,
    dash: mark.dash,
    evenodd: mark.evenodd ?? false,
  };
}

function paint(name: string | undefined): string {
  if (!name) return 'none';
  return (drawing.paints as Record<string, string>)[name] ?? name;
}

function form(mark: MarkData, of: Proportions, mirrored: boolean): string {
  if (mark.path) return drawn(mark.path, of, mirrored);
  const [x = 0, y = 0, wide = 0, tall = wide] = mark.circle ?? mark.ellipse ?? [];
  const [atX, atY] = placed(mirrored ? 2 * drawing.middle - x : x, y, of);
  return round(atX, atY, wide, tall);
}

/** An ellipse as a path, so that every mark is one. */
function round(x: number, y: number, wide: number, tall: number): string {
  const [left, right] = [(x - wide).toFixed(1), (x + wide).toFixed(1)];
  const at = y.toFixed(1);
  return `M${left} ${at} A${wide} ${tall} 0 1 0 ${right} ${at} A${wide} ${tall} 0 1 0 ${left} ${at} Z`;
}
