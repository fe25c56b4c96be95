import { useSession } from "../api/session";
import { Field } from "./OneForm";

/** A password that is chosen now; how long it has to be is the server's to say. */
export function NewPassword({ text, name }: { text: string; name: string }) {
  const least = useSession().data?.least_password;
  return (
    <Field
      text={text}
      note={least === undefined ? undefined : `${least} characters at least; a few words in a row are easy to remember.`}
      name={name}
      type="password"
      autoComplete="new-password"
      minLength={least}
    />
  );
}
