import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";
import { Problem } from "./Problem";

/** A button that asks before it does something that is hard to take back. */
export function Confirm({
  trigger,
  label,
  title,
  act,
  run,
  error,
  children,
}: {
  /** The words on the button. */
  trigger: string;
  /** Its name for screen readers, where the words alone don't say what it is about. */
  label?: string;
  title: string;
  /** The words on the button that does it. */
  act: string;
  run: () => void;
  error: Error | null;
  children: ReactNode;
}) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="quiet" aria-label={label}>
        {trigger}
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-night/60" />
        <AlertDialog.Content className="paper fixed top-1/3 left-1/2 w-[min(440px,92vw)] -translate-x-1/2 border-t-4 border-alarm bg-paper p-6">
          <AlertDialog.Title className="text-xl font-semibold">{title}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-5">{children}</AlertDialog.Description>
          <Problem error={error} />
          <div className="mt-3 flex gap-5">
            <AlertDialog.Action className="act" onClick={run}>
              {act}
            </AlertDialog.Action>
            <AlertDialog.Cancel className="quiet">Cancel</AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
