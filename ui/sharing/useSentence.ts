"use client";

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Wish, wishSchema } from "@/core/sharing/wish";
import { rfc3339, seconds, type Seconds } from "@/core/time/instant";
import { readAddresses } from "../parts/AddressesField";
import { useDates } from "../parts/useDates";
import { useMoment } from "../parts/useMoment";
import type { Beginning, SharingDoor } from "./door";

/** The slots of the sentence as somebody fills them in, and what would come of it. */
export function useSentence(door: SharingDoor, { wish: first }: Beginning, now: Seconds) {
  const dates = useDates();
  const [isNamed, setNamed] = useState(first.to !== "anyone");
  const [addresses, setAddresses] = useState(first.to === "anyone" ? "" : first.to.join("\n"));
  const [mailTo, setMailTo] = useState("");
  const [role, setRole] = useState(first.role);
  const [password, setPassword] = useState(first.password || first.to !== "anyone");
  const [download, setDownload] = useState(first.download);
  const [uses, setUses] = useState("");
  const from = useMoment("", { now, edge: "start", min: now, optional: true });
  const until = useMoment(first.until === null ? "" : dates.day(seconds(first.until)), {
    ...{ now, edge: "end", min: now, optional: true },
  });
  const wish: Wish = {
    ...{ itemId: first.itemId, role, download, ...(first.replaces !== undefined && { replaces: first.replaces }) },
    to: isNamed ? readAddresses(addresses).addresses : "anyone",
    mailTo: isNamed ? [] : readAddresses(mailTo).addresses,
    password: !isNamed && password,
    from: from.at === null ? null : rfc3339(from.at),
    until: until.at === null ? null : rfc3339(until.at),
    maxUses: uses.trim() === "" ? null : Number(uses),
  };
  const parsed = wishSchema.safeParse(wish);
  const problem =
    [from, until].find((moment) => moment.problem !== null)?.problem ?? (parsed.success ? null : wordsOf(parsed.error));
  const outlook = useQuery({
    queryKey: ["sharing", door.kind, "look", wish, dates.settings],
    queryFn: ({ signal }) => door.look(wish, dates.settings, signal),
    enabled: problem === null,
    placeholderData: keepPreviousData,
  });
  return {
    ...{ isNamed, setNamed, addresses, setAddresses, mailTo, setMailTo, role, setRole, password, setPassword },
    ...{ download, setDownload, uses, setUses, from, until, wish, problem, outlook },
  };
}
export type Sentence = ReturnType<typeof useSentence>;

function wordsOf({ issues: [{ path, message }] }: { issues: { path: PropertyKey[]; message: string }[] }): string {
  if (path[0] === "maxUses") return "How often it can be opened is a whole number from 1.";
  return path.length > 1 ? `An address ${message}.` : message;
}
