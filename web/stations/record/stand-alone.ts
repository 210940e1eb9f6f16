const asDataUrl = async (address: string): Promise<string> => {
  const blob = await (await fetch(address)).blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.addEventListener("load", () => resolve(String(reader.result)));
    reader.addEventListener("error", () => reject(reader.error ?? new Error("unreadable picture")));
    reader.readAsDataURL(blob);
  });
};

/** All rules of the page's style sheets, but fonts: those of whoever opens it do. */
function rules(): string {
  return [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter((rule) => !(rule instanceof CSSFontFaceRule))
    .map((rule) => rule.cssText)
    .join("\n");
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign] ?? sign);

/** What is shown, as one file that opens anywhere: pictures and styles within, no script, nothing fetched. */
export async function standAlone(shown: HTMLElement, title: string): Promise<string> {
  const copy = shown.cloneNode(true) as HTMLElement;
  for (const gone of copy.querySelectorAll(".no-print, script, button")) gone.remove();
  await Promise.all(
    [...copy.querySelectorAll("img")].map(async (image) => {
      image.src = await asDataUrl(image.src);
    }),
  );
  // Links lead back into this workshop's own server: elsewhere they would lead nowhere.
  for (const link of copy.querySelectorAll("a")) link.replaceWith(...link.childNodes);
  return `<!doctype html>
<html lang="en" data-theme="light">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src data:; style-src 'unsafe-inline'">
<title>${escaped(title)}: service record</title>
<style>${rules().replaceAll("</style", "<\\/style")}</style>
</head>
<body style="padding:1rem">
${copy.outerHTML}
</body>
</html>
`;
}
