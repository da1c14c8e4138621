import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
} from '@headlessui/react';
import { useState } from 'react';
import type { Command } from './commands.ts';

/** Everything that can be done from anywhere, found by typing. */
export function Palette({
  open,
  onClose,
  commands,
}: {
  open: boolean;
  onClose: () => void;
  commands: readonly Command[];
}) {
  const [typed, setTyped] = useState('');
  const found = commands.filter((command) => command.words.toLowerCase().includes(typed.toLowerCase()));
  const close = (): void => {
    setTyped('');
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} aria-label="Commands" className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/40" />
      <div className="fixed inset-x-0 top-24 mx-auto w-[480px] max-w-[92vw]">
        <DialogPanel className="border border-hairline bg-raised shadow-xl">
          <Combobox<Command | null>
            onChange={(command) => {
              close();
              command?.run();
            }}
          >
            <ComboboxInput
              autoFocus
              aria-label="Find a command"
              placeholder="What would you like to do?"
              className="w-full px-3 py-2 text-base"
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
            <ComboboxOptions static className="max-h-80 overflow-auto py-1">
              {found.map((command) => (
                <ComboboxOption
                  key={command.words}
                  value={command}
                  className="flex cursor-pointer justify-between px-3 py-1.5 data-focus:bg-wash"
                >
                  <span>{command.words}</span>
                  <kbd className="font-sans text-soft">{[...command.keys].join(' ')}</kbd>
                </ComboboxOption>
              ))}
              {found.length === 0 && <p className="px-3 py-2 text-soft">No command of that name.</p>}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
