import { theApp } from "@/server/theApp";

/** Every operation of the contract: the application knows which one a request is for. */
const answer = async (request: Request) => (await theApp()).fetch(request);

export { answer as DELETE, answer as GET, answer as POST, answer as PUT };
