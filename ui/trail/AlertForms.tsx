"use client";

import { useState } from "react";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { useSignIns } from "./useSignIns";

/** Asks for the note with which alerts are settled. */
export function SettleForm({ onSettle }: { onSettle: (note: string) => void }) {
  const [note, setNote] = useState("");
  return (
    <form
      className="mt-3"
      onSubmit={(event) => {
        event.preventDefault();
        onSettle(note);
      }}
    >
      <Field label="Settle with a note" value={note} required onChange={(event) => setNote(event.target.value)} />
      <Button type="submit">Settle</Button>
    </form>
  );
}

/** Asks to whom alerts are assigned. */
export function AssignForm({ first, onAssign }: { first: string; onAssign: (to: string | null) => void }) {
  const [to, setTo] = useState(first);
  const people = useSignIns();
  return (
    <form
      className="mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        onAssign(to || null);
      }}
    >
      <label className="mb-3 block font-semibold">
        Assigned to
        <select
          value={to}
          onChange={(event) => setTo(event.target.value)}
          className="mt-1 block h-9 w-full rounded-[3px] border border-control bg-raised px-2 font-normal"
        >
          <option value="">Nobody</option>
          {to !== "" && !people.some(({ email }) => email === to) && <option>{to}</option>}
          {people.map(({ name, email }) => (
            <option key={email} value={email}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit">Assign</Button>
    </form>
  );
}
