"use client";

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { channelsBody } from "@/contract/estate";
import type { z } from "zod";
import { type FormEvent, type ReactNode } from "react";
import { estateOperations } from "@/contract/estate";
import { ask, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Notice } from "../parts/Notice";

const KEY = keyOf(estateOperations.channels);

/** Mail, webhook and log: nothing goes out before it is set here. */
export function ChannelsPart() {
  const client = useQueryClient();
  const { data, error } = useQuery({
    queryKey: KEY,
    queryFn: ({ signal }) => ask(estateOperations.channels, { signal }),
  });
  const set = useMutation({
    mutationFn: (body: z.input<typeof channelsBody>) => ask(estateOperations.setChannels, { body }),
    onSuccess: (channels) => client.setQueryData(KEY, channels),
  });
  const trial = useMutation({
    mutationFn: () => ask(estateOperations.testMail),
  });
  return (
    <section aria-labelledby="channels" className="max-w-3xl">
      <h1 id="channels" className="mb-1 text-[20px] font-semibold">
        Where messages go
      </h1>
      <p className="mb-3 text-ink-soft">
        Nothing is sent until it is set up here. Secrets are stored encrypted and not shown again.
      </p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {set.error && <Notice tone="wrong">{set.error.message}</Notice>}
      {data && (
        <>
          <Part
            title="Mail"
            onGiven={(given) => set.mutate({ mail: mailFrom(given) })}
            isSet={data.mail !== null}
            onDrop={() => set.mutate({ mail: null })}
          >
            <Field label="Server" name="host" defaultValue={data.mail?.host} required />
            <Field
              label="Port"
              name="port"
              type="number"
              min={1}
              max={65535}
              defaultValue={data.mail?.port ?? 587}
              required
            />
            <Field label="From" name="from" type="email" defaultValue={data.mail?.from} required />
            <Field label="User" name="user" autoComplete="off" defaultValue={data.mail?.user} />
            <Field
              label="Password"
              name="password"
              type="password"
              autoComplete="new-password"
              defaultValue={data.mail?.password}
            />
            <label className="flex items-center gap-2 pt-8">
              <input type="checkbox" name="secure" defaultChecked={data.mail?.secure} /> TLS from the start (implicit)
            </label>
          </Part>
          <div className="flex items-center gap-3 pb-3">
            <Button onClick={() => trial.mutate()} disabled={data.mail === null || trial.isPending}>
              Send me a test mail
            </Button>
            <p role="status">{trial.data && `Sent to ${trial.data.to}.`}</p>
            {trial.error && <Notice tone="wrong">{trial.error.message}</Notice>}
          </div>
          <Part
            title="Webhook"
            onGiven={({ url, secret }) => set.mutate({ webhook: { url, secret: secret || "unchanged" } })}
            isSet={data.webhook !== null}
            onDrop={() => set.mutate({ webhook: null })}
          >
            <Field label="Address" name="url" type="url" defaultValue={data.webhook?.url} required />
            <Field
              label="Secret"
              name="secret"
              autoComplete="off"
              required={data.webhook === null}
              hint="whsec_ and at least 24 bytes in base64. Messages are signed by the Standard Webhooks scheme."
            />
          </Part>
          <Part
            title="Log (syslog, RFC 5424)"
            onGiven={({ place }) => set.mutate({ syslog: logFrom(place) })}
            isSet={data.syslog !== null}
            onDrop={() => set.mutate({ syslog: null })}
          >
            <Field
              label="A file name, or a port"
              name="place"
              required
              defaultValue={data.syslog?.to === "file" ? data.syslog.name : data.syslog?.port}
              hint="A file name such as alerts.log, written to the log folder; or the number of a UDP port on this machine."
            />
          </Part>
        </>
      )}
    </section>
  );
}

interface PartProps {
  title: string;
  isSet: boolean;
  onGiven: (given: Record<string, string>) => void;
  onDrop: () => void;
  children: ReactNode;
}

function Part({ title, isSet, onGiven, onDrop, children }: PartProps) {
  const onSubmit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    onGiven(Object.fromEntries(new FormData(event.currentTarget)) as Record<string, string>);
  };
  return (
    <form onSubmit={onSubmit} aria-label={title} className="border-t border-line py-3">
      <h2 className="mb-2 font-semibold">
        {title} <span className="font-normal text-ink-faint">{isSet ? "set" : "not set"}</span>
      </h2>
      <div className="grid grid-cols-3 items-start gap-x-4">{children}</div>
      <div className="flex gap-2">
        <Button type="submit">Save</Button>
        {isSet && <Button onClick={onDrop}>Disconnect</Button>}
      </div>
    </form>
  );
}

function mailFrom({ host, port, secure, user, password, from }: Record<string, string>) {
  return { host, user, password, from, port: Number(port), secure: secure === "on" };
}

function logFrom(place: string) {
  return /^\d+$/.test(place) ? { to: "udp" as const, port: Number(place) } : { to: "file" as const, name: place };
}
