// Fastify looks for the name of a plugin that tells none among all modules that are loaded: a second for all of ours.

const DISPLAY_NAME = Symbol.for('fastify.display-name');

/** The plugin, known by the name of its function. */
export const named = <P extends (...parts: never[]) => unknown>(plugin: P): P =>
  Object.assign(plugin, { [DISPLAY_NAME]: plugin.name });
