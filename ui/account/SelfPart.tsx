import type { FormEvent } from "react";
import { peopleOperations, type Self } from "@/contract/people";
import { ask } from "../parts/ask";
import { Field } from "../parts/Field";
import { Part } from "./Part";
import { SaveRow } from "./SaveRow";
import { useSelf } from "./useSelf";

/** One's name. */
export function SelfPart({ self }: { self: Self }) {
  const save = useSelf((body: { name: string }) => ask(peopleOperations.setSelf, { body }));
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    save.mutate({ name: String(given.get("name")) });
  };
  return (
    <Part title="You" about={`You sign in as ${self.email}. You are an ${self.role} here.`}>
      <form onSubmit={submit} className="max-w-sm">
        <Field label="Name" name="name" defaultValue={self.name} autoComplete="name" required maxLength={100} />
        <SaveRow save={save} />
      </form>
    </Part>
  );
}
