import { Switch } from '@headlessui/react';

interface ToggleProps {
  readonly label: string;
  /** What is said while it is on, and while it is off. */
  readonly on: string;
  readonly off: string;
  readonly isOn: boolean;
  readonly onToggle: (isOn: boolean) => void;
  readonly disabled?: boolean;
}

/** One of two statements; clicked it becomes the other. */
export const Toggle = ({ label, on, off, isOn, onToggle, disabled = false }: ToggleProps) =>
  disabled ? (
    <span>{isOn ? on : off}</span>
  ) : (
    <Switch
      checked={isOn}
      onChange={onToggle}
      aria-label={label}
      className="cursor-pointer border-b border-dotted border-brass text-left"
    >
      {isOn ? on : off}
    </Switch>
  );
