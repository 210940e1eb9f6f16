import { expect, it } from "vitest";
import { openTestServer, takeIn } from "#server/tests/server.ts";
import { sendMutated } from "./sent.ts";

it("a request that something went wrong with is taken or refused in words, never met by a fault", async () => {
  const server = await openTestServer();
  const card = await takeIn(server);
  const told = await sendMutated(server.running.address, card, 20_261_202, 80);
  expect(told.faults).toEqual([]);
  expect(told.taken).toBeGreaterThan(5);
  expect(told.refused).toBeGreaterThan(30);
  expect((await server.ask("GET", `/api/cards/${card.id}`)).status).toBe(200);
  await server.close();
});
