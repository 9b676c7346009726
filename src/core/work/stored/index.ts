// What may be used of this room from outside; all else is its own business.

// Decisions about single notes or bars in one part.
export { customInstrumentSchema, recipesSchema, savedRecipeSchema, workSchema } from './recipeSchema';
// A text of at most so many characters that can be stored and sent.
export { textSchema } from './textSchema';
// Three deep at most, like the notation that can be read.
export { keySchema, pitchClassSchema, pitchSchema, tuneSchema } from './tuneSchema';
// The number that stored recipes, named ones too, carry now.
export { storedRecipes, storedSavedRecipe, storedWork, upgradedGroup, upgradedSavedRecipe } from './upgradeRecipe';
// From each schema number to the next.
export { upgraded } from './upgradeTune';
