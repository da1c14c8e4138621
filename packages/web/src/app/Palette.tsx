import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
} from '@headlessui/react';
import { search } from '@meridiem/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from './api.ts';
import type { Command } from './commands.ts';

/** Everything that can be done from anywhere, and everything that has a name, found by typing. */
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
  const navigate = useNavigate();
  const text = typed.trim();
  const { data } = useQuery({
    queryKey: ['projects', 'search', text],
    queryFn: ({ signal }) => call(search, { query: { text }, signal }),
    enabled: open && text.length >= 2,
    placeholderData: keepPreviousData,
  });
  const hits = text.length >= 2 ? (data?.hits ?? []) : [];
  const close = (): void => {
    setTyped('');
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} aria-label="Commands" className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/40" />
      <div className="fixed inset-x-0 top-24 mx-auto w-[480px] max-w-[92vw]">
        <DialogPanel className="border border-hairline bg-raised shadow-xl">
          <Combobox<Pick<Command, 'run'> | null>
            onChange={(chosen) => {
              close();
              chosen?.run();
            }}
          >
            <ComboboxInput
              autoFocus
              aria-label="Find a command"
              placeholder="A command, or the name of a project, target, member, night"
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
              {hits.map(({ kind, words, remark, path }) => (
                <ComboboxOption
                  key={`${kind} ${path} ${words}`}
                  value={{ run: () => void navigate(path) }}
                  className="flex cursor-pointer justify-between gap-4 px-3 py-1.5 data-focus:bg-wash"
                >
                  <span className="truncate font-serif">{words}</span>
                  <span className="whitespace-nowrap text-soft">{remark === kind ? kind : `${kind}, ${remark}`}</span>
                </ComboboxOption>
              ))}
              {found.length + hits.length === 0 && (
                <p className="px-3 py-2 text-soft">No command, project, member or night of that name.</p>
              )}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
