/** Next calls this once when the server starts. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { start } = await import("./server/start");
  await start();
}
