import { useQuery, useQueryClient } from "@tanstack/react-query";
import QRCode from "qrcode";
import { type FormEvent, useState } from "react";
import { peopleOperations, type Self } from "@/contract/people";
import { askSignIn, keyOf } from "../parts/ask";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";
import { Part } from "./Part";
import { useSelf } from "./useSelf";

/** The secret for an authenticator, and recovery codes. */
interface Begun {
  totpURI: string;
  backupCodes: string[];
}

/** Codes from an authenticator after the password, by RFC 6238. */
export function CodesPart({ self }: { self: Self }) {
  const [begun, setBegun] = useState<Begun>();
  const [fresh, setFresh] = useState<string[]>();
  return (
    <Part
      title="Authenticator codes"
      about="An authenticator app shows a code that you enter after your password. With codes, your password can be shorter."
    >
      {begun ? (
        <Confirm
          begun={begun}
          onDone={() => {
            setFresh(begun.backupCodes);
            setBegun(undefined);
          }}
        />
      ) : self.hasCodes ? (
        <Manage onFresh={setFresh} />
      ) : (
        <WithPassword
          act="Set up codes"
          work={async (password) => setBegun((await askSignIn("beginCodes", { password })) as Begun)}
        />
      )}
      {fresh && <Recovery codes={fresh} />}
    </Part>
  );
}

/** A form that asks for the password once more. */
function WithPassword({
  act,
  isEnd,
  work,
}: {
  act: string;
  isEnd?: boolean;
  work: (password: string) => Promise<void>;
}) {
  const doing = useSelf(work);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = event.currentTarget;
    doing.mutate(String(new FormData(form).get("password")), { onSuccess: () => form.reset() });
  };
  return (
    <form method="post" onSubmit={submit} className="max-w-sm">
      <Field label="Your password" name="password" type="password" autoComplete="current-password" required />
      {doing.error && <Notice tone="wrong">{doing.error.message}</Notice>}
      <Button type="submit" className={isEnd ? "text-oxide" : undefined} disabled={doing.isPending}>
        {act}
      </Button>
    </form>
  );
}

function Confirm({ begun, onDone }: { begun: Begun; onDone: () => void }) {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string>();
  const picture = useQuery({
    queryKey: ["picture of", begun.totpURI],
    queryFn: async () =>
      `data:image/svg+xml,${encodeURIComponent(await QRCode.toString(begun.totpURI, { type: "svg" }))}`,
  });
  const secret = new URL(begun.totpURI).searchParams.get("secret")!;
  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const code = String(new FormData(event.currentTarget).get("code")).replace(/\s/g, "");
    try {
      await askSignIn("giveCode", { code });
      await client.invalidateQueries({ queryKey: keyOf(peopleOperations.self) });
      onDone();
    } catch (error) {
      setProblem((error as Error).message);
    }
  }
  return (
    <form method="post" onSubmit={submit} className="flex flex-wrap gap-6">
      {picture.data ? (
        // eslint-disable-next-line @next/next/no-img-element -- drawn here, of a secret that goes nowhere
        <img
          src={picture.data}
          alt="QR code for your authenticator app"
          width={180}
          height={180}
          className="bg-white"
        />
      ) : picture.error ? (
        <Notice tone="wrong">The QR code could not be drawn. Type the secret instead.</Notice>
      ) : (
        <Loading />
      )}
      <div className="max-w-sm">
        <p>Scan this with an authenticator app, or type the secret into it:</p>
        <p className="mt-1 mb-3 font-mono text-[13px] break-all select-all">{secret}</p>
        <Field
          label="Code it shows now"
          name="code"
          inputMode="numeric"
          autoComplete="one-time-code"
          required
          autoFocus
        />
        {problem && <Notice tone="wrong">{problem}</Notice>}
        <Button type="submit" look="act">
          Confirm
        </Button>
      </div>
    </form>
  );
}

function Manage({ onFresh }: { onFresh: (codes: string[]) => void }) {
  const [what, setWhat] = useState<"fresh" | "end">();
  return (
    <>
      <p className="mb-3">You are asked for a code after your password.</p>
      {what === undefined && (
        <div className="flex gap-2">
          <Button onClick={() => setWhat("fresh")}>Make new recovery codes</Button>
          <Button className="text-oxide" onClick={() => setWhat("end")}>
            Remove codes
          </Button>
        </div>
      )}
      {what === "fresh" && (
        <WithPassword
          act="Make new recovery codes"
          work={async (password) => {
            onFresh(((await askSignIn("newRecoveryCodes", { password })) as Begun).backupCodes);
            setWhat(undefined);
          }}
        />
      )}
      {what === "end" && (
        <WithPassword
          act="Remove codes"
          isEnd
          work={async (password) => void (await askSignIn("endCodes", { password }))}
        />
      )}
    </>
  );
}

function Recovery({ codes }: { codes: string[] }) {
  return (
    <div className="mt-4 border border-line-strong bg-surface p-4">
      <p className="font-semibold">Your recovery codes, shown this once</p>
      <p className="mb-2 text-ink-soft">
        Each signs you in once if you lose your authenticator. Keep them somewhere safe, apart from your password.
        Earlier codes no longer work.
      </p>
      <ul className="grid grid-cols-2 gap-x-8 font-mono text-[15px] select-all">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
    </div>
  );
}
