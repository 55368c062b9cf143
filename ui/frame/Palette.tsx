"use client";

import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { Dialog } from "radix-ui";
import { useEffect, useEffectEvent, useState } from "react";
import { registerOperations } from "@/contract/register";
import { waysInOperations } from "@/contract/waysIn";
import { DAY, rfc3339, type Seconds } from "@/core/time/instant";
import { fold } from "@/core/text/text";
import { ask, asked, keyOf } from "../parts/ask";
import { type FoundSubject, subjectsOf } from "../parts/Finder";
import { focusListIfLost } from "../parts/focusList";
import { Key } from "../parts/Key";
import { signOut } from "../parts/signOut";
import { OTHER_SCREENS, SECTIONS } from "./screens";
import { useTray } from "./useTray";
import { asOf, useStandpoint } from "./viewer";

interface Props {
  present: Seconds;
  isOpen: boolean;
  onOpen: (isOpen: boolean) => void;
  onKeys: () => void;
  onPast: (at: string | null) => void;
}

/** Everything there is to go to or to do, found by typing: screens, commands, saved queries, and names in the estate. */
export function Palette({ present, isOpen, onOpen, onKeys, onPast }: Props) {
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState("");
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== "k" || !(event.ctrlKey || event.metaKey) || event.altKey) return;
      event.preventDefault();
      onOpen(!isOpen);
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [isOpen, onOpen]);
  const done = (act: () => void) => () => {
    onOpen(false);
    setText("");
    act();
  };
  return (
    <Dialog.Root open={isOpen} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Dialog.Content
          aria-describedby={undefined}
          // After going somewhere the focus is there, and not where it was before.
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            focusListIfLost();
          }}
          className="fixed top-0 right-0 left-0 z-30 border-b-4 border-verdigris bg-raised px-8 py-5"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command
            label="Find"
            loop
            value={chosen}
            onValueChange={setChosen}
            filter={(_, typed, words = []) => (fold(words.join(" ")).includes(fold(typed.trim())) ? 1 : 0)}
          >
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder="A screen, a command, a saved query, an item, a person or an organisation"
              className="h-10 w-full max-w-3xl rounded-[3px] border border-control bg-raised px-3 text-[16px]"
            />
            <Command.List aria-label="Results" className="mt-3 max-h-[60vh] max-w-3xl overflow-y-auto">
              <Command.Empty className="px-3 py-2 text-ink-soft">
                {text.trim().length > 1 ? "Nothing found." : "Type at least two characters to find names."}
              </Command.Empty>
              <Screens done={done} />
              <Commands present={present} done={done} onKeys={onKeys} onPast={onPast} />
              <Saved done={done} />
              <Names text={text} done={done} onFirst={setChosen} />
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

type Done = (act: () => void) => () => void;
const GROUP =
  "[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-ink-faint";

function Screens({ done }: { done: Done }) {
  const router = useRouter();
  const { past } = useStandpoint();
  return (
    <Command.Group heading="Screens" className={GROUP}>
      {[...SECTIONS, ...OTHER_SCREENS].map(([name, path], at) => (
        <Choice
          key={path}
          words={name}
          keyWords={at < SECTIONS.length ? String(at + 1) : undefined}
          onPick={done(() => router.push(asOf(path, past)))}
        />
      ))}
    </Command.Group>
  );
}

type CommandsProps = Pick<Props, "present" | "onKeys" | "onPast"> & { done: Done };

function Commands({ present, done, onKeys, onPast }: CommandsProps) {
  const router = useRouter();
  const { past } = useStandpoint();
  const { tray } = useTray();
  const ago = (days: number) => done(() => onPast(rfc3339(present - days * DAY)));
  return (
    <Command.Group heading="Commands" className={GROUP}>
      {tray?.docketId && (
        <Choice words="Preview the tray" onPick={done(() => router.push(`/ledger/dockets/${tray.docketId}`))} />
      )}
      <Choice words="Show this screen’s keys" keyWords="?" onPick={done(onKeys)} />
      <Choice words="See the estate as it was a week ago" onPick={ago(7)} />
      <Choice words="See the estate as it was a month ago" onPick={ago(30)} />
      {past !== null && <Choice words="Go back to now" onPick={done(() => onPast(null))} />}
      <Choice words="Sign out" onPick={done(signOut)} />
    </Command.Group>
  );
}

function Saved({ done }: { done: Done }) {
  const router = useRouter();
  const { past } = useStandpoint();
  const { data } = useQuery(asked(registerOperations.savedQueries, { past }));
  if (!data || data.queries.length === 0) return null;
  return (
    <Command.Group heading="Saved queries" className={GROUP}>
      {data.queries.map(({ id, name, view, count }) => (
        <Choice
          key={id}
          id={`query ${id}`}
          words={name}
          more={`${count.toLocaleString("en-GB")} shares`}
          onPick={done(() => router.push(asOf(`/register?${view}`, past)))}
        />
      ))}
    </Command.Group>
  );
}

const MOST = 12;

interface NamesProps {
  text: string;
  done: Done;
  /** Selects the first name where only names were found. */
  onFirst: (value: string) => void;
}

/** Items, people and organisations: each leads to its ways in. */
function Names({ text, done, onFirst }: NamesProps) {
  const router = useRouter();
  const { past } = useStandpoint();
  const { data } = useQuery({
    queryKey: [...keyOf(waysInOperations.find), text, false, past],
    queryFn: ({ signal }) => ask(waysInOperations.find, { query: { text, owners: false }, past, signal }),
    enabled: text.trim().length > 1,
  });
  const choose = useEffectEvent(() => {
    const first = document.querySelector("[cmdk-item]");
    if (first && !document.querySelector("[cmdk-item][aria-selected=true]")) onFirst(first.getAttribute("data-value")!);
  });
  useEffect(() => choose(), [data]);
  if (!data || text.trim().length < 2) return null;
  const found = subjectsOf(data).slice(0, MOST);
  const go = ({ kind, id }: FoundSubject) => router.push(asOf(`/ways?${new URLSearchParams({ [kind]: id })}`, past));
  return (
    <Command.Group heading="In the estate" forceMount className={GROUP}>
      {found.map((one) => (
        <Choice
          key={`${one.kind} ${one.id}`}
          id={`${one.kind} ${one.id}`}
          words={one.words}
          more={one.more}
          isFound
          onPick={done(() => go(one))}
        />
      ))}
    </Command.Group>
  );
}

interface ChoiceProps {
  /** What it is told from others by, where its words may be those of another. */
  id?: string;
  words: string;
  more?: string;
  keyWords?: string;
  /** The server found it: it is shown whatever its words are. */
  isFound?: boolean;
  onPick: () => void;
}

function Choice({ id, words, more, keyWords, isFound, onPick }: ChoiceProps) {
  return (
    <Command.Item
      value={id ?? words}
      keywords={[words]}
      forceMount={isFound}
      onSelect={onPick}
      className="flex items-baseline gap-3 px-3 py-1.5 aria-selected:bg-verdigris-soft"
    >
      <span className="min-w-0 truncate">{words}</span>
      {more && <span className="min-w-0 truncate text-[12.5px] text-ink-faint">{more}</span>}
      {keyWords && (
        <span className="ml-auto">
          <Key>{keyWords}</Key>
        </span>
      )}
    </Command.Item>
  );
}
