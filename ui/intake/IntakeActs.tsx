"use client";

import { DropdownMenu } from "radix-ui";
import { useId, useState } from "react";
import type { IntakeTold } from "@/contract/intake";
import { rfc3339 } from "@/core/time/instant";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Finder } from "../parts/Finder";
import { MomentField } from "../parts/MomentField";
import { Sheet } from "../parts/Sheet";
import { useMoment } from "../parts/useMoment";
import type { Staging } from "../staging/useStaging";

interface Props {
  link: IntakeTold;
  /** The house's own words, to begin with. */
  words: string;
  staging: Staging;
}

type Asked = "words" | "start" | "folder" | "owner" | null;

/** What can be done with one intake link: each goes into the tray. */
export function IntakeActs({ link, words, staging }: Props) {
  const [asking, setAsking] = useState<Asked>(null);
  const { id, can, itemName } = link;
  const close = () => setAsking(null);
  const acts: [string, () => void, boolean][] = [
    ["Close it", () => staging.revoke([id]), true],
    ["Set its end…", () => staging.ask("end", [id]), true],
    ["Set its start…", () => setAsking("start"), can.startTime],
    ["Set a password", () => staging.password([id], link.password), can.linkPassword],
    ["Change what visitors read…", () => setAsking("words"), can.words],
    ["Move it to a folder of its own…", () => setAsking("folder"), true],
    ["Hand the folder over…", () => setAsking("owner"), true],
  ];
  const stage: Props["staging"]["stage"] = (changes) => {
    close();
    staging.stage(changes);
  };
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button aria-label={`What to do with the intake link on ${itemName}`}>Change…</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-20 w-[260px] border border-line-strong bg-raised py-1"
          >
            {acts.map(([title, act, isOn]) => (
              <DropdownMenu.Item
                key={title}
                disabled={!isOn}
                onSelect={act}
                className="cursor-default px-3 py-1.5 outline-none data-[disabled]:text-ink-faint data-[highlighted]:bg-verdigris-soft"
              >
                {title}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {asking === "words" && (
        <WordsSheet
          first={link.message ?? words}
          onClose={close}
          onChoose={(message) => stage([{ action: "set-words", shareId: id, message }])}
        />
      )}
      {asking === "start" && (
        <StartSheet onClose={close} onChoose={(opensAt) => stage([{ action: "set-start", shareId: id, opensAt }])} />
      )}
      {asking === "folder" && (
        <FolderSheet
          first={`${itemName}, received`}
          onClose={close}
          onChoose={(folder) => stage([{ action: "move-intake", shareId: id, folder }])}
        />
      )}
      {asking === "owner" && (
        <OwnerSheet
          onClose={close}
          onChoose={(address) => stage([{ action: "hand-over", itemId: link.itemId, address, links: [] }])}
        />
      )}
    </>
  );
}

interface SheetProps<T> {
  onClose: () => void;
  onChoose: (value: T) => void;
}

function WordsSheet({ first, onClose, onChoose }: SheetProps<string> & { first: string }) {
  const [text, setText] = useState(first);
  const id = useId();
  return (
    <Sheet
      isOpen
      title="What visitors read"
      description="They see it before they send anything: say who asks, what for, and who can tell them more."
      act="Add it to the docket"
      onClose={onClose}
      onAct={() => text.trim() !== "" && onChoose(text.trim())}
    >
      <div className="mb-3 w-full max-w-2xl">
        <label htmlFor={id} className="mb-1 block font-semibold">
          Words
        </label>
        <textarea
          id={id}
          rows={4}
          maxLength={2000}
          value={text}
          onChange={({ target }) => setText(target.value)}
          className="block w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5"
        />
      </div>
    </Sheet>
  );
}

function StartSheet({ onClose, onChoose }: SheetProps<string | null>) {
  const { now } = useStandpoint();
  const start = useMoment("in 7 days", { now, edge: "start", min: now, optional: true });
  return (
    <Sheet
      isOpen
      title="When it opens"
      description="Until then it takes no files. Left empty, it takes files from now on."
      act="Add the start to the docket"
      onClose={onClose}
      onAct={() => start.problem === null && onChoose(start.at === null ? null : rfc3339(start.at))}
    >
      <div className="w-72">
        <MomentField label="It opens on" moment={start} />
      </div>
    </Sheet>
  );
}

function FolderSheet({ first, onClose, onChoose }: SheetProps<string> & { first: string }) {
  const [name, setName] = useState(first);
  const id = useId();
  return (
    <Sheet
      isOpen
      title="A folder of its own"
      description="An empty folder is made beside the present one, with a new link on it. The old link stops working: send the new address to those who need it. Files that came in stay where they are."
      act="Add it to the docket"
      onClose={onClose}
      onAct={() => name.trim() !== "" && onChoose(name.trim())}
    >
      <div className="mb-3 w-96">
        <label htmlFor={id} className="mb-1 block font-semibold">
          Name of the folder
        </label>
        <input
          id={id}
          value={name}
          onChange={({ target }) => setName(target.value)}
          className="h-9 w-full rounded-[3px] border border-control bg-raised px-2.5"
        />
      </div>
    </Sheet>
  );
}

function OwnerSheet({ onClose, onChoose }: SheetProps<string>) {
  const [person, setPerson] = useState<string | null>(null);
  return (
    <Sheet
      isOpen
      title="Hand the folder over"
      description="The new owner answers for the folder, and for the links on it that the former owner made."
      act="Add it to the docket"
      onClose={onClose}
      onAct={() => person !== null && onChoose(person)}
    >
      <div className="mb-3 w-96">
        <Finder
          label="New owner"
          placeholder="name or address of one of your own people"
          kinds={["owner"]}
          value=""
          onPick={(found) => setPerson(found?.id ?? null)}
        />
      </div>
    </Sheet>
  );
}
