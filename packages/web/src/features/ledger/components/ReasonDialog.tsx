import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { VERDICT_REASONS } from '@meridiem/contract';
import { useEffect } from 'react';
import { REASON_KEYS } from '../view-model.ts';

type Reason = (typeof VERDICT_REASONS)[number];

interface ReasonDialogProps {
  readonly open: boolean;
  readonly count: number;
  readonly onClose: () => void;
  readonly onReason: (reason: Reason) => void;
}

/** Why an exposure is rejected: one key or one click. */
export function ReasonDialog({ open, count, onClose, onReason }: ReasonDialogProps) {
  useEffect(() => {
    if (!open) return;
    const onKey = (event: KeyboardEvent): void => {
      const at = REASON_KEYS.indexOf(event.key);
      if (event.key.length === 1 && VERDICT_REASONS[at]) onReason(VERDICT_REASONS[at]);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [open, onReason]);
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-black/40" />
      <div className="fixed inset-x-0 top-40 mx-auto w-[320px]">
        <DialogPanel className="border border-hairline bg-raised p-4 shadow-xl">
          <DialogTitle className="text-lg">
            Reject {count === 1 ? 'this exposure' : `${count} exposures`} because of
          </DialogTitle>
          <ul className="mt-2">
            {VERDICT_REASONS.map((reason, i) => (
              <li key={reason}>
                <button
                  type="button"
                  className="flex w-full cursor-pointer justify-between px-2 py-1 text-left hover:bg-wash"
                  onClick={() => onReason(reason)}
                >
                  {reason}
                  <kbd className="font-sans text-soft">{REASON_KEYS[i]}</kbd>
                </button>
              </li>
            ))}
          </ul>
          <p className="mt-2 text-xs text-soft">Nothing is erased. The goal asks for as many more by itself.</p>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
