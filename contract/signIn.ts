/** Somebody who can sign in. */
export interface SignIn {
  name: string;
  email: string;
}
