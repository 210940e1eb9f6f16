import { expect, test } from "@playwright/test";
import { App, Bench, expectAccessible, logFile } from "./support/app.ts";

let app: App;
test.beforeAll(async () => {
  app = await new App().start();
});
test.afterAll(() => app.close());

async function addBench(bench: Bench, name: string, hiddenCard: string, speed = "150"): Promise<void> {
  const { page } = bench;
  await bench.open("/test-bench");
  await page.getByRole("button", { name: "Add a bench" }).click();
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Hidden card").fill(hiddenCard);
  await page.getByLabel("Times real speed").fill(speed);
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText(name, { exact: true })).toBeVisible();
}

/** A WAV file of 16 bits, mono: head of 44 bytes, then the samples. */
function wavOf(samples: readonly number[], rateHz: number): Buffer {
  const file = Buffer.alloc(44 + 2 * samples.length);
  file.write("RIFF", 0);
  file.writeUInt32LE(file.length - 8, 4);
  file.write("WAVEfmt ", 8);
  file.writeUInt32LE(16, 16);
  file.writeUInt16LE(1, 20);
  file.writeUInt16LE(1, 22);
  file.writeUInt32LE(rateHz, 24);
  file.writeUInt32LE(2 * rateHz, 28);
  file.writeUInt16LE(2, 32);
  file.writeUInt16LE(16, 34);
  file.write("data", 36);
  file.writeUInt32LE(2 * samples.length, 40);
  samples.forEach((value, index) => file.writeInt16LE(value, 44 + 2 * index));
  return file;
}

test("first power-on is led through; a card that fails is set aside and comes back", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Reed 5");
  const answer = (item: string, words: string) =>
    page.getByRole("radiogroup", { name: item, exact: true }).getByRole("radio", { name: words, exact: true }).click();
  await answer("Supply and connectors", "Yes");
  await expect(page.getByText("Zero-fan mode: fans stand still")).toBeVisible();
  await answer("Picture", "No");
  await expect(page.getByText("Rule out, in this order:")).toBeVisible();
  await page.getByLabel("What was seen: picture").fill("dark on all outputs");
  await page.getByLabel("Set aside because of").selectOption("return to seller");
  await expect(page.getByText("Set aside: return to seller").first()).toBeVisible();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await bench.open();
  await expect(page.getByRole("link", { name: /Reed 5/ })).toContainText("Set aside: return to seller");
  await page.getByRole("link", { name: /Reed 5/ }).click();
  await expect(page.getByLabel("What was seen: picture")).toHaveValue("dark on all outputs");
  await page.getByRole("button", { name: "Take it back" }).click();
  await answer("Picture", "Yes");
  await expect(page.getByText("Not passed")).toBeHidden();
});

test("a whole protocol runs on the simulated bench while the page is away, with readings and an early stop", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await addBench(bench, "Left bench", "21", "60");
  await expect(page.getByText("hidden card 21 · 60 times real speed")).toBeVisible();
  await expectAccessible(page);

  await bench.openNewCard("Ostrel", "Fjell 71");
  await bench.station("Baseline");
  await page.getByLabel("Protocol", { exact: true }).selectOption("Fixed fan");
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Under load" })).toBeVisible();
  const live = page.url();
  // A reading by hand from the keyboard alone.
  await page.keyboard.press("m");
  await expect(page.getByRole("heading", { name: "Take a reading" })).toBeVisible();
  await page.getByLabel("The figure it shows (°C)").fill("64,5");
  await page.getByLabel("Where").fill("memory 3");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/memory 3/)).toBeVisible();
  await expect(page.getByText(/into the run/)).toBeVisible();
  // Away and back: the run goes on.
  await bench.open();
  await expect(page.getByRole("region", { name: "Test bench" })).toContainText("Ostrel Fjell 71");
  await page.goto(live);
  await expect(page.getByText("The protocol is done")).toBeVisible({ timeout: 120_000 });
  await expectAccessible(page);
  await page.getByRole("link", { name: "Open the run" }).click();
  await expect(page.getByRole("heading", { name: /Fixed fan 62 %/ })).toBeVisible();
  await expect(page.getByText("Next check:")).toBeVisible();
});

test("a run stopped by hand is kept; two pages can't start the same bench", async ({ page }) => {
  const bench = new Bench(page, app);
  await addBench(bench, "Right bench", "22", "40");
  await bench.openNewCard("Brevane", "Loch 9");
  await bench.station("Baseline");
  const choose = async (one: typeof page): Promise<void> => {
    await one.getByLabel("Test bench", { exact: true }).selectOption("Right bench");
    await one.getByLabel("Protocol", { exact: true }).selectOption("Long soak");
  };
  await choose(page);
  const other = await page.context().newPage();
  await other.goto(page.url());
  await choose(other);
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Under load" })).toBeVisible();
  // Refused; a page that has heard of the run by then shows that instead.
  const start = other.getByRole("button", { name: "Start", exact: true });
  await expect(start.or(other.getByText("Long soak is running on Right bench"))).toBeVisible();
  if (await start.isVisible()) await start.click({ timeout: 5000 }).catch(() => undefined);
  await expect(other.getByText(/This bench is running already|Long soak is running on Right bench/)).toBeVisible();
  await other.close();
  // A page that opens later has the run from its first sample on.
  await expect(page.getByText(/^([2-9]|\d\d):\d\d min/)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("img", { name: /from 0:0\d to ([2-9]|\d\d):/ })).toBeVisible();
  await page.getByRole("button", { name: "Stop and keep" }).click();
  await expect(page.getByText("Stopped by hand.")).toBeVisible();
  await expect(page.getByText("1 run is kept with the card.")).toBeVisible();
});

test("after the work the run begins as the one before was made, and its typed room is not forgotten", async ({
  page,
}) => {
  const bench = new Bench(page, app);
  await addBench(bench, "Quiet bench", "23");
  await bench.openNewCard("Brevane", "Loch 11");
  await bench.station("Baseline");
  await page
    .locator("input[type=file]")
    .first()
    .setInputFiles(logFile("before.csv", { sensors: { room: null } }));
  await page.getByRole("region", { name: "before.csv" }).getByLabel("Room air (°C)", { exact: true }).fill("21,5");
  await page.getByLabel("Case").selectOption("panel off");
  await page.getByRole("button", { name: "Keep this run" }).click();
  await page.getByRole("link", { name: "Brevane Loch 11" }).click();
  await bench.station("Prove");
  const live = page.getByRole("region", { name: "Run it live" });
  await expect(live.getByLabel("Protocol", { exact: true })).toHaveValue("As before the work");
  await expect(live.getByLabel("Side panel")).toHaveValue("panel off");
  await live.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByText(/Read the room air now: the run before had it typed/)).toBeVisible();
  await expect(live.getByRole("button", { name: "Start without it" })).toBeVisible();
  await live.getByLabel("Room air (°C)").fill("22");
  await live.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page).toHaveURL(/\/live\//);
});

test("a protocol is changed, kept as one's own and run on a bench that a script feeds", async ({ page, request }) => {
  const bench = new Bench(page, app);
  await bench.open("/test-bench");
  await page.getByRole("button", { name: "Add a bench" }).click();
  await page.getByRole("radio", { name: "Sent over HTTP" }).click();
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText("Type a name.")).toBeVisible();
  await page.getByLabel("Name").fill("Script bench");
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByText("the token is not shown again")).toBeVisible();
  const [address = "", token = ""] = await page.locator("dd code").allTextContents();
  const send = (edge: number, power: number) =>
    request.post(address, {
      headers: { Authorization: `Bearer ${token}` },
      data: { samples: [{ at: Date.now() / 1000, "GPU temperature [°C]": edge, "Board power [W]": power }] },
    });
  expect((await send(30, 15)).status()).toBe(200);

  await bench.openNewCard("Brevane", "Tarn 20");
  await bench.station("Baseline");
  await page.getByLabel("Test bench", { exact: true }).selectOption("Script bench");
  await page.getByText("Change the protocol").click();
  await page.getByLabel("Name of the protocol").fill("Ours");
  await page.getByLabel("Minutes of load at most").fill("0");
  await page.getByRole("button", { name: "Keep as my own" }).click();
  await expect(page.getByText("Between 1 and 240 minutes.")).toBeVisible();
  await page.getByLabel("Minutes of load at most").fill("12");
  await page.getByRole("button", { name: "Keep as my own" }).click();
  await expect(page.getByText("Protocol kept")).toBeVisible();
  await page.getByLabel("Room air (°C)").fill("21,5");
  await page.getByRole("button", { name: "Start", exact: true }).click();
  await expect(page.getByText("Ours · Script bench · baseline")).toBeVisible();
  for (let k = 0; k < 12; k++) expect((await send(30 + (k % 2), 15)).ok()).toBe(true);
  await expect(page.getByText(/1[0-3] samples kept/)).toBeVisible();
  await page.getByRole("button", { name: "Stop and keep" }).click();
  await expect(page.getByText("Stopped by hand.")).toBeVisible();
});

test("a recording gives level, blade pass and tick; once calibrated, dBA go into the reading", async ({ page }) => {
  const rate = 16_000;
  const turn = (60 / 1500) * rate;
  // Quiet hum of nine blades at 1500 rpm with a click once per turn.
  const samples = Array.from({ length: 6 * rate }, (_, k) =>
    Math.round(900 * Math.sin((2 * Math.PI * 225 * k) / rate) + (k % turn < 24 ? 9000 * Math.sin(k * 2.1) : 0)),
  );
  const bench = new Bench(page, app);
  await bench.openNewCard("Quillmar", "Reed 8");
  await bench.station("Baseline");
  await page.getByRole("button", { name: "Take a reading" }).click();
  await page.getByRole("radio", { name: "Sound level" }).click();
  await page.getByLabel("Fan speed (rpm)").fill("1500");
  await page.getByLabel("Blades").fill("9");
  const file = page.getByLabel("Choose a WAV file");
  await file.setInputFiles({ name: "notes.wav", mimeType: "audio/wav", buffer: Buffer.from("no sound at all") });
  await expect(page.getByText("This is not a WAV recording that can be read.")).toBeVisible();
  await file.setInputFiles({ name: "fan.wav", mimeType: "audio/wav", buffer: wavOf(samples, rate) });
  await expect(page.getByText("dB below full scale, A-weighted")).toBeVisible();
  await expect(page.getByText(/Blade pass expected at 225 Hz: found at 22\d Hz/)).toBeVisible();
  await expect(page.getByText(/A tick once per turn, 1\d\d\d a minute/)).toBeVisible();
  await page.getByLabel("What a sound level meter shows now (dBA)").fill("41,5");
  await page.getByRole("button", { name: "Calibrate" }).click();
  await expect(page.getByLabel("The figure it shows (dBA)")).toHaveValue("41.5");
  await page.getByRole("button", { name: "Keep the reading" }).click();
  await expect(page.getByText("41.5 dBA")).toBeVisible();
});

test("open it or leave it: recommended with reasons and figures, overruled only with a reason", async ({ page }) => {
  const bench = new Bench(page, app);
  await bench.openNewCard("Ostrel", "Skar 44");
  await bench.station("Decide");
  await expect(page.getByText("Nothing to decide on yet")).toBeVisible();
  await bench.station("Baseline");
  await bench.dropRun(logFile("worn.csv", { faults: { dryPaste: 0.9 } }), "Worn");
  await page.getByRole("link", { name: "Ostrel Skar 44" }).click();
  await page.getByRole("link", { name: "Next: decide" }).click();
  await expect(page.getByRole("heading", { name: "Clean and repaste" })).toBeVisible();
  await expect(page.getByText("decides", { exact: true })).toBeVisible();
  await expect(page.getByText("Dried or pumped-out compound", { exact: false })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("radio", { name: "Clean only" }).click();
  const button = page.getByRole("button", { name: "Decide against the recommendation" });
  await expect(button).toBeDisabled();
  await page.getByLabel("Why not as recommended").fill("owner wants it cheap");
  await button.click();
  await expect(page.getByText("owner wants it cheap")).toBeVisible();
  await page.reload();
  await expect(page.getByText(/Decided:\s*Clean only/)).toBeVisible();
});
