/** Next calls this once when the server starts. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { startUp } = await import("./server/startUp");
  await startUp();
}
