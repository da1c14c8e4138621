// TypeScript for Jest. Every global is looked up through the test's sandbox, which costs a hundred times a plain lookup:
// what inner loops use is taken out of it once a module.
import swc from '@swc/jest';

const LOCAL_GLOBALS =
  'const { Math, Number, Array, Float64Array, Uint8Array, Map, Set, Object, Infinity, NaN } = globalThis; ';

const withLocals = ({ code, map }) => ({ code: LOCAL_GLOBALS + code, map });

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...all) => withLocals(inner.process(...all)),
      processAsync: async (...all) => withLocals(await inner.processAsync(...all)),
      getCacheKey: (...all) => `${LOCAL_GLOBALS} ${inner.getCacheKey(...all)}`,
    };
  },
};
