import { type UseMutationResult, useMutation } from "@tanstack/react-query";
import { showPassword } from "../api/account";
import { ApiError, ASK_AGAIN } from "../api/client";
import { Field, OneForm } from "./OneForm";
import { Problem } from "./Problem";

/** The password, asked for where an action needs it, and then the action again; else what went wrong with it. */
export function AskAgain<T>({ doing }: { doing: UseMutationResult<unknown, Error, T> }) {
  const show = useMutation({
    mutationFn: (said: Record<string, string>) => showPassword(said["password"] ?? ""),
    onSuccess: () => doing.mutate(doing.variables as T),
  });
  if (!(doing.error instanceof ApiError && doing.error.code === ASK_AGAIN)) return <Problem error={doing.error} />;
  return (
    <div className="border-l-4 border-amber-deep pl-3">
      <OneForm act="Go on" busy={show.isPending} error={show.error} submit={show.mutate}>
        <Field text="Your password, once more" name="password" type="password" autoComplete="current-password" autoFocus />
      </OneForm>
    </div>
  );
}
