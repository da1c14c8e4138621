// Every command of the shell with its key, for the palette and the keyboard alike.

export interface Command {
  readonly words: string;
  /** Keys pressed one after the other. */
  readonly keys: string;
  readonly run: () => void;
}

/** Whether a key press belongs to a field that is being filled in. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  );
}

const FOLLOW_MS = 1200;

/** Listens for the keys of commands; two-key commands may take a moment.
 * @returns a function that stops listening */
export function listenForCommands(commands: readonly Command[]): () => void {
  let pressed = '';
  let lastMs = 0;
  const onKey = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target) || event.defaultPrevented) return;
    pressed = event.timeStamp - lastMs < FOLLOW_MS ? pressed + event.key : event.key;
    lastMs = event.timeStamp;
    const command =
      commands.find((candidate) => candidate.keys === pressed) ??
      commands.find((candidate) => candidate.keys === event.key);
    if (!command) return;
    event.preventDefault();
    pressed = '';
    command.run();
  };
  window.addEventListener('keydown', onKey);
  return () => window.removeEventListener('keydown', onKey);
}
