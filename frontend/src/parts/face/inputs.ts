import type { Proportions, Stroke, Zone } from '../../api/client';
import type { Colours } from './colours';

/** The three inputs of a face: what is drawn, what is shown on it, and what can be pressed. */

export interface Drawn {
  /** Colour of each zone, computed by the core. Without them a pale cast is drawn, on which places stand out. */
  colours?: Colours;
  /** How this face departs from the usual one. */
  proportions?: Proportions | undefined;
}

/** A zone filled with something to be compared: a grey, or dots, and a figure on it. */
export interface Measure {
  grey: string;
  dotted?: boolean;
  figure?: string;
  /** The ground is too dark for dark letters. */
  dark?: boolean;
}

/** Layers over the drawing, from below. */
export interface Shown {
  /** Places filled in the colour that they show; where a zone has none, in grey. */
  places?: { zones: readonly Zone[]; colours: Colours };
  measures?: ReadonlyMap<Zone, Measure>;
  /** Zones outlined: those of a chosen step, or the one that is pointed at. */
  chosen?: readonly Zone[];
  /** A grade from 1 to 3 hatched on a zone, with its number; 0 shows nothing. */
  grade?: (zone: Zone) => number;
  strokes?: readonly Stroke[];
  chosenStroke?: string | null;
}

/** Zones that tell when the pointer is over them. */
export interface Pointing {
  onpoint: (zone: Zone | null) => void;
}

/** Zones that are painted: by a stroke of the pointer, or by arrow keys and Space. */
export interface Painting extends Pointing {
  pointed: Zone | null;
  /** What is said of a zone. */
  told: (zone: Zone) => string;
  /** A stroke went over a zone. */
  ontouch: (zone: Zone) => void;
  /** The stroke has ended. */
  onlift?: () => void;
  /** A zone is painted by a key. */
  onpaint: (zone: Zone) => void;
}

/** Strokes that are moved: dragged, or by arrow keys; Home puts one back. */
export interface Moving {
  mm_a_unit: number;
  /** What is said of a stroke. */
  told: (stroke: Stroke) => string;
  onchoose: (stroke: Stroke) => void;
  /** Moved by so many mm to the right and down. */
  onmove: (stroke: Stroke, by: [number, number]) => void;
  onreset: (stroke: Stroke) => void;
}

/** How far the pointer has moved the stroke that it holds, in units of the sheet. */
export interface Shift {
  stroke: Stroke;
  by: [number, number];
}

export type Pressed = { point: Pointing } | { paint: Painting } | { move: Moving };

export const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
