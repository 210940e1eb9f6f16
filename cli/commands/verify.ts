import type { RecordFile } from "#contract";
import { verifyRecord } from "#server/services/record-checksum.ts";
import { jsonCommand } from "../json-command.ts";
import { line } from "../print.ts";

/** Whether a record that was handed out is as it was made. */
export const verifyCommand = jsonCommand("verify", "RECORD.json", verifyRecord, printRecord);

function printRecord({ card, workshop, service, checksum }: RecordFile): void {
  line(`Unchanged: ${card.maker} ${card.model}, serial ${card.serial || "unknown"}`);
  line(
    `${workshop.name || "A workshop"}, ${service.closedAt ? `handed over ${service.closedAt.slice(0, 10)}` : "not handed over yet"}`,
  );
  line(`sha-256 ${checksum.value}`);
}
