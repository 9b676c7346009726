/** Jest loads CommonJS here; the engraver's package has its module as ESM alone, and the same one inside its classic bundle. */
const { module: library } = require('verovio');

module.exports = {
  __esModule: true,
  default: () =>
    new Promise((resolve) => {
      if (library.calledRun) resolve(library);
      else library.onRuntimeInitialized = () => resolve(library);
    }),
};
