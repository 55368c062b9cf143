import { useId } from "react";
import { type Wish, WISHED_ROLES } from "@/core/sharing/wish";
import { MomentField } from "../parts/MomentField";
import type { Sentence } from "./useSentence";

const ROLE_WORDS: Record<Wish["role"], string> = { view: "look at", comment: "comment on", edit: "edit" };

/** One sentence that says what is to be shared, slot by slot. */
export function SentenceSlots({ sentence, itemName }: { sentence: Sentence; itemName: string }) {
  const { isNamed, setNamed, role, setRole, password, setPassword, download, setDownload } = sentence;
  return (
    <fieldset className="text-[15px]">
      <legend className="sr-only">What is to be shared</legend>
      <p className="flex flex-wrap items-center gap-2">
        Let
        <Slot label="who" value={isNamed ? "named" : "anyone"} onPick={(value) => setNamed(value === "named")}>
          <option value="named">these people</option>
          <option value="anyone">anyone with the link</option>
        </Slot>
        <Slot label="what they may do" value={role} onPick={(value) => setRole(value as Wish["role"])}>
          {WISHED_ROLES.map((one) => (
            <option key={one} value={one}>
              {ROLE_WORDS[one]}
            </option>
          ))}
        </Slot>
        <b className="font-semibold wrap-anywhere">{itemName}</b>
      </p>
      <Addresses sentence={sentence} />
      <div className="mt-3 flex flex-wrap items-start gap-x-6">
        <div className="w-64">
          <MomentField label="until" moment={sentence.until} hint="Left empty: without an end." />
        </div>
        <div className="w-64">
          <MomentField label="but not before" moment={sentence.from} hint="Left empty: from now on." />
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        {!isNamed && <Tick label="with a passphrase" isOn={password} onTurn={setPassword} />}
        <Tick label="without downloading" isOn={!download} onTurn={(isOn) => setDownload(!isOn)} />
        <Uses sentence={sentence} />
      </div>
    </fieldset>
  );
}

function Slot(props: { label: string; value: string; onPick: (value: string) => void; children: React.ReactNode }) {
  const { label, value, onPick, children } = props;
  return (
    <select
      aria-label={label}
      value={value}
      onChange={({ target }) => onPick(target.value)}
      className="h-[32px] rounded-[3px] border border-control bg-raised px-2 font-semibold"
    >
      {children}
    </select>
  );
}

function Addresses({ sentence }: { sentence: Sentence }) {
  const id = useId();
  const { isNamed, addresses, setAddresses, mailTo, setMailTo } = sentence;
  return (
    <div className="mt-3 max-w-lg">
      <label htmlFor={id} className="mb-1 block text-[13.5px] text-ink-soft">
        {isNamed ? "Their addresses, one per line" : "Who is sent the link, one per line; nobody has to be"}
      </label>
      <textarea
        id={id}
        rows={2}
        value={isNamed ? addresses : mailTo}
        onChange={({ target }) => (isNamed ? setAddresses : setMailTo)(target.value)}
        className="block w-full rounded-[3px] border border-control bg-raised px-2.5 py-1.5 font-mono text-[13px]"
      />
    </div>
  );
}

function Tick({ label, isOn, onTurn }: { label: string; isOn: boolean; onTurn: (isOn: boolean) => void }) {
  return (
    <label className="flex h-[30px] items-center gap-2">
      <input type="checkbox" checked={isOn} onChange={({ target }) => onTurn(target.checked)} />
      {label}
    </label>
  );
}

function Uses({ sentence: { uses, setUses } }: { sentence: Sentence }) {
  const id = useId();
  return (
    <span className="flex items-center gap-2">
      <label htmlFor={id}>at most</label>
      <input
        id={id}
        inputMode="numeric"
        value={uses}
        onChange={({ target }) => setUses(target.value)}
        className="h-[30px] w-16 rounded-[3px] border border-control bg-raised px-2"
        aria-describedby={`${id}-unit`}
      />
      <span id={`${id}-unit`}>uses</span>
    </span>
  );
}
