"use client";

import { DECIDERS, type DeciderKind } from "@/core/rounds/decider";
import { Button } from "../parts/Button";
import { Field } from "../parts/Field";
import { Slot } from "../parts/ListSlot";
import { DECIDER_WORDS, orderWords } from "./words";

interface Props {
  order: DeciderKind[];
  named: string;
  onOrder: (order: DeciderKind[]) => void;
  onNamed: (address: string) => void;
}

/** Who is asked, in which order: the first who can decide does. */
export function OrderSlot({ order, named, onOrder, onNamed }: Props) {
  const rest = DECIDERS.filter((kind) => !order.includes(kind));
  const move = (at: number, by: number) => {
    const next = [...order];
    [next[at], next[at + by]] = [next[at + by], next[at]];
    onOrder(next);
  };
  return (
    <Slot label="Who is asked" words={orderWords(order, named || null)}>
      <p className="mb-2 text-ink-soft">
        The first who works here and doesn’t get access through the share decides. If there is nobody, administrators
        decide.
      </p>
      <ol>
        {order.map((kind, at) => (
          <li key={kind} className="flex items-center gap-1.5 border-t border-line py-1">
            <span className="grow">
              {at + 1}. {DECIDER_WORDS[kind]}
            </span>
            <Button disabled={at === 0} aria-label={`Ask ${DECIDER_WORDS[kind]} earlier`} onClick={() => move(at, -1)}>
              ↑
            </Button>
            <Button
              disabled={at === order.length - 1}
              aria-label={`Ask ${DECIDER_WORDS[kind]} later`}
              onClick={() => move(at, 1)}
            >
              ↓
            </Button>
            <Button
              disabled={order.length === 1}
              aria-label={`Don’t ask ${DECIDER_WORDS[kind]}`}
              onClick={() => onOrder(order.filter((one) => one !== kind))}
            >
              Remove
            </Button>
          </li>
        ))}
      </ol>
      {order.includes("named") && (
        <div className="mt-2">
          <Field
            label="Address of the named person"
            type="email"
            value={named}
            onChange={({ target }) => onNamed(target.value)}
          />
        </div>
      )}
      {rest.length > 0 && (
        <ul className="mt-2 border-t border-line pt-2">
          {rest.map((kind) => (
            <li key={kind}>
              <button type="button" className="text-verdigris underline" onClick={() => onOrder([...order, kind])}>
                Then ask {DECIDER_WORDS[kind]}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Slot>
  );
}
