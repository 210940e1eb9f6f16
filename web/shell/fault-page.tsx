import { useEffect, useState } from "react";
import { isRouteErrorResponse, useRouteError } from "react-router";
import { Button, LinkButton } from "../ui/button.tsx";
import { Page } from "../ui/page.tsx";
import { FileMissing, newerScript } from "./page-file.ts";

export function NothingHere() {
  return (
    <Page title="There is nothing here">
      <p className="mb-4">The address may be mistyped, or the thing was removed. What you typed elsewhere is kept.</p>
      <LinkButton to="/" look="main">
        To the Bench
      </LinkButton>
    </Page>
  );
}

/** What a page met that could not be shown. */
export function FaultPage() {
  const error = useRouteError();
  if (isRouteErrorResponse(error) && error.status === 404) return <NothingHere />;
  if (error instanceof FileMissing) return <MissingFile />;
  return (
    <Page title="This page met a fault of its own">
      <p className="mb-4">What you typed is kept. Load the page again; if it comes back, go on from another one.</p>
      <Reload />
    </Page>
  );
}

const Reload = () => (
  <Button look="main" onClick={() => location.reload()}>
    Load the page again
  </Button>
);

/** A window tries a newer version by itself only once. */
const TRIED = "newer version";
/** Long enough to read why the page is loaded again, ms. */
const READ_MS = 2000;

function MissingFile() {
  const [newer, setNewer] = useState<string | null>(null);
  useEffect(() => {
    let timer = 0;
    let isHere = true;
    void newerScript().then((script) => {
      if (!isHere || script === null) return;
      setNewer(script);
      if (sessionStorage.getItem(TRIED) === script) return;
      sessionStorage.setItem(TRIED, script);
      timer = window.setTimeout(() => location.reload(), READ_MS);
    });
    return () => {
      isHere = false;
      clearTimeout(timer);
    };
  }, []);
  return newer === null ? (
    <Page title="This part of the page did not come">
      <p className="mb-4">The server may be stopped, or the connection gone. What you typed is kept.</p>
      <Reload />
    </Page>
  ) : (
    <Page title="A newer version is there">
      <p className="mb-4">
        Algidus was updated while this window was open. The page is loaded again; what you typed is kept.
      </p>
      <Reload />
    </Page>
  );
}
