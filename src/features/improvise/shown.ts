import type { Level } from '../../core/instruments';

/** One level large, or the three under one another. */
export type Shown = Level | 'three';
