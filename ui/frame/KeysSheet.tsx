"use client";

import clsx from "clsx";
import { usePathname } from "next/navigation";
import { Dialog } from "radix-ui";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { useKeysOn } from "../parts/useKeys";
import { KEYS_EVERYWHERE, keysOn } from "./keys";
import { helpFor, useStandpoint } from "./viewer";
import { Link } from "../parts/Link";

/** The keys of the screen one is on, and whether they are on. */
export function KeysSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const path = usePathname();
  const here = keysOn(path);
  const { past } = useStandpoint();
  const [isOn, turn] = useKeysOn();
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Dialog.Content className="fixed right-0 bottom-[42px] left-0 z-30 max-h-[80vh] overflow-y-auto border-t-4 border-verdigris bg-raised px-8 py-6">
          <Dialog.Title className="text-[20px] font-semibold">Keys</Dialog.Title>
          <Dialog.Description className="mt-1 text-ink-soft">
            In the register, keys apply to the marked rows, or to the row under the cursor if none are marked.
          </Dialog.Description>
          <div className="mt-4 flex flex-wrap gap-x-12 gap-y-4">
            {here.length > 0 && <Keys title="On this screen" keys={here} />}
            <Keys title="Everywhere" keys={KEYS_EVERYWHERE} />
          </div>
          <div className="mt-4 flex items-center gap-6">
            <Dialog.Close asChild>
              <Button look="act">Close</Button>
            </Dialog.Close>
            <Link href={helpFor(path, past)} onClick={onClose} className="text-verdigris underline">
              Help
            </Link>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={isOn} onChange={(event) => turn(event.target.checked)} />
              Use single-key shortcuts in this browser
            </label>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Keys({ title, keys }: { title: string; keys: ReturnType<typeof keysOn> }) {
  return (
    <section>
      <h3 className="mb-1 font-semibold">{title}</h3>
      <dl className={clsx("gap-x-10", keys.length > 6 && "sm:columns-2")}>
        {keys.map(([key, does]) => (
          <div key={key} className="flex break-inside-avoid gap-3 py-0.5">
            <dt className="w-24 shrink-0 text-right">
              <Key>{key}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
