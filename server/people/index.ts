/** The door of this room: what other rooms may ask of it. */
export { forgetCodes } from "./codes";
export { administrators, canSignIn, seesConsole } from "./people";
