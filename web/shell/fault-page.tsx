import { LinkButton } from "../ui/button.tsx";
import { Page } from "../ui/page.tsx";

export function FaultPage() {
  return (
    <Page title="There is nothing here">
      <p className="mb-4">The address may be mistyped, or the thing was removed. What you typed elsewhere is kept.</p>
      <LinkButton to="/" look="main">
        To the Bench
      </LinkButton>
    </Page>
  );
}
