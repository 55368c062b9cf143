import { z } from "zod";
import { theApp } from "@/server/theApp";
import { bodyOf, refusal } from "@/server/http/guard";
import { makeFirstAdministrator } from "@/server/people/firstRun";
import { newPersonSchema } from "@/server/people/people";

const asked = newPersonSchema.extend({ code: z.string().max(50) });
const WORDS = {
  "wrong-code": "That is not the code. It stands in the terminal in which the application was started.",
  "too-many-tries": "Too many tries. Start the application again for a new code.",
  "not-first": "There is an administrator already. Sign in instead.",
};

/** The one request that needs no sign-in: it needs the code instead, and works once. */
export async function POST(request: Request) {
  try {
    const { code, ...person } = await bodyOf(request, asked);
    const result = await makeFirstAdministrator(await theApp(), code, person);
    return result === "made" ? Response.json({}) : Response.json({ error: WORDS[result] }, { status: 403 });
  } catch (error) {
    return refusal(error);
  }
}
