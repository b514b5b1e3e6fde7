// What happened to the data when the app started: told once, until somebody has read it.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api } from "../api/client";
import { Button } from "../ui/Button";
import { fail } from "../ui/Failure";

export function Notice() {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: ["notice"], queryFn: api.notice });
  const forget = useMutation({
    mutationFn: api.forgetNotice,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["notice"] }),
    onError: (problem) => fail("shelf", problem.message),
  });
  if (!data?.sentence) return null;
  return (
    <div
      role="alert"
      className="mb-6 flex items-center gap-4 rounded-xl border border-alarm bg-sheet p-4 max-sm:flex-col max-sm:items-start"
    >
      <p className="min-w-0 flex-1 [overflow-wrap:anywhere]">{data.sentence}</p>
      <Button disabled={forget.isPending} onClick={() => forget.mutate()}>
        I have read it
      </Button>
    </div>
  );
}
