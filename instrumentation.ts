/** Next calls this once when the server starts. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const [{ start }, { theApp }] = await Promise.all([import("./server/app"), import("./server/theApp")]);
  await start(await theApp());
}
