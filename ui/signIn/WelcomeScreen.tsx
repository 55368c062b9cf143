"use client";

import { QueryClient, QueryClientProvider, useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { MIN_PASSWORD, peopleOperations } from "@/contract/people";
import { ask, asked } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { leaveTo } from "../parts/leaveTo";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { useFragment } from "../parts/useFragment";
import { EntrySheet } from "./EntrySheet";

/** Where an invitation leads: somebody chooses their password. */
export function WelcomeScreen() {
  const token = useFragment();
  const [client] = useState(() => new QueryClient());
  return (
    <QueryClientProvider client={client}>
      <EntrySheet title="Choose a password">{token === null ? <Loading /> : <Choose token={token} />}</EntrySheet>
    </QueryClientProvider>
  );
}

function Choose({ token }: { token: string }) {
  const { data, error } = useQuery({ ...asked(peopleOperations.welcome, { body: { token } }), retry: false });
  const choose = useMutation({
    mutationFn: (password: string) => ask(peopleOperations.choosePassword, { body: { token, password } }),
    onSuccess: () => leaveTo("/sign-in"),
  });
  if (error) return <Notice tone="wrong">{error.message}</Notice>;
  if (!data) return <Loading />;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    choose.mutate(String(new FormData(event.currentTarget).get("password")));
  };
  return (
    <form method="post" onSubmit={submit}>
      <p className="mb-4 text-ink-soft">
        {data.name}, you sign in as <b className="font-semibold text-ink">{data.email}</b>.
      </p>
      <input type="hidden" name="email" autoComplete="username" value={data.email} />
      <Field
        label="Password"
        name="password"
        type="password"
        autoComplete="new-password"
        required
        autoFocus
        hint={`At least ${MIN_PASSWORD} characters. Several unrelated words make a good one.`}
      />
      {choose.error && <Notice tone="wrong">{choose.error.message}</Notice>}
      <Button type="submit" look="act" disabled={choose.isPending} className="mt-3 h-9">
        Save password
      </Button>
    </form>
  );
}
