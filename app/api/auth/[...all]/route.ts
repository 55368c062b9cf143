import { theApp } from "@/server/theApp";

const handle = async (request: Request) => (await (await theApp()).auth()).handler(request);

export { handle as GET, handle as POST };
