import { z } from "zod";
import { answerSchema } from "@/core/rules/answer";
import { answered } from "@/server/http/answering";
import { answer } from "@/server/rules/answers";

const given = z.object({ token: z.string().max(500), answer: answerSchema });

/** An owner's answer about one of their shares. */
export const POST = answered(given, async ({ letter, body, app }) => {
  await answer(app, letter, body.answer);
  return {};
});
