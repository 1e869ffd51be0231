import { useMutation } from "@tanstack/react-query";
import { api, settle } from "../../api/client";
import { whyOf } from "../../api/problem";
import { text } from "../../text";
import { Button } from "../../ui/Button";

// Slip is what a section has before it on narrow paper: to be looked at, and to be printed where a printer is.
export function Slip({ service, section }: { service: string; section: string }) {
  const words = text.work.slip;
  const print = useMutation({
    mutationFn: () =>
      settle(api.POST("/api/services/{id}/slip", { params: { path: { id: service } }, body: { section } })),
  });
  return (
    <>
      <a
        className="btn btn-outline-primary"
        href={`/api/services/${encodeURIComponent(service)}/slip.txt?section=${encodeURIComponent(section)}`}
        target="_blank"
        rel="noreferrer"
      >
        {words.show}
      </a>
      <Button disabled={print.isPending} onClick={() => print.mutate()}>
        {words.print}
      </Button>
      <span role="status" className={print.isError ? "mark-late" : "quiet"}>
        {print.isError ? `▲ ${whyOf(print.error)}` : print.isSuccess ? words.printed : ""}
      </span>
    </>
  );
}
