"use client";

import { type FormEvent, useState } from "react";
import { peopleOperations } from "@/contract/people";
import { ask } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { leaveTo, signInFor } from "../parts/leaveTo";
import { Notice } from "../parts/Notice";
import { EntrySheet } from "./EntrySheet";

/** Makes the first administrator for whoever can read the terminal. */
export function FirstRunScreen() {
  const [problem, setProblem] = useState<string>();

  async function makeAdministrator(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const given = new FormData(event.currentTarget);
    const text = (name: string) => String(given.get(name) ?? "");
    const body = { code: text("code"), name: text("name"), email: text("email"), password: text("password") };
    try {
      await ask(peopleOperations.firstRun, { body });
      leaveTo(signInFor("/estate/set-up"));
    } catch (error) {
      setProblem((error as Error).message);
    }
  }

  return (
    <EntrySheet title="Create the first administrator">
      <form method="post" onSubmit={makeAdministrator}>
        <Field
          label="Code"
          name="code"
          autoComplete="off"
          required
          autoFocus
          hint="It’s in the terminal where the application was started."
        />
        <Field label="Your name" name="name" autoComplete="name" required />
        <Field label="E-mail address" name="email" type="email" autoComplete="username" required />
        <Field
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          minLength={15}
          required
          hint="At least 15 characters. Several unrelated words make a good one."
        />
        {problem && <Notice tone="wrong">{problem}</Notice>}
        <Button type="submit" look="act" className="mt-3 h-9">
          Create administrator
        </Button>
      </form>
    </EntrySheet>
  );
}
