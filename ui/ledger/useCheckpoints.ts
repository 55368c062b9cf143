import { useQuery } from "@tanstack/react-query";
import { ledgerOperations } from "@/contract/ledger";
import { asked } from "../parts/ask";

/** Checkpoints go out to witnesses once a minute. */
const LOOK_EVERY_MS = 30_000;

/** The ledger's newest checkpoint and who holds which, kept up to date. */
export const useCheckpoints = () =>
  useQuery({ ...asked(ledgerOperations.checkpoints), refetchInterval: LOOK_EVERY_MS });
