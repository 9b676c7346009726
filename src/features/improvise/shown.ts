import type { Level } from '../../core/instruments/instrument';

/** One level large, or the three under one another. */
export type Shown = Level | 'three';
