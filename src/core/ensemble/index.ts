// What may be used of this room from outside; all else is its own business.

// A tune for several players, as it was made.
export { type Ensemble } from './arranged';
// A tune for players who sound together.
export { arrange, MAX_ENSEMBLE } from './ensemble';
// The part of each, once through or through its form.
export { partOfVoice, performedPart } from './parts';
// Somebody who plays along.
export { type EnsemblePlayer } from './player';
// What a part is in a bar, in words.
export { ROLE_NAMES } from './words';
// The same for a group of the studio.
export { ensembleOfGroup, playersThere, workOfVoice } from './groupEnsemble';
