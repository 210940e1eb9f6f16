import { CircuitBoard, Fan, Layers, Package, Scale, Settings, SquareKanban } from "lucide-react";
import { lazy, Suspense, useEffect, useEffectEvent, useRef, useState } from "react";
import { NavLink, Outlet, ScrollRestoration, useNavigate } from "react-router";
import { Toaster } from "sonner";
import { watchDrops } from "../app/dropped.ts";
import { useKeys } from "../app/keys.ts";
import { useAppSelector } from "../app/store.ts";
import { Waiting } from "../ui/page.tsx";
import { ConnectionBar } from "./connection-bar.tsx";
import { SignIn } from "./sign-in.tsx";

const KeysHelp = lazy(() => import("./keys-help.tsx").then((file) => ({ default: file.KeysHelp })));

const PLACES = [
  { to: "/", key: "b", label: "Bench", icon: SquareKanban },
  { to: "/cards", key: "c", label: "Cards", icon: Layers },
  { to: "/boards", key: "o", label: "Boards", icon: CircuitBoard },
  { to: "/coolers", key: "l", label: "Coolers", icon: Fan },
  { to: "/findings", key: "f", label: "Findings", icon: Scale },
  { to: "/stores", key: "s", label: "Stores", icon: Package },
  { to: "/workshop", key: "w", label: "Workshop", icon: Settings },
] as const;

export function Shell() {
  const go = useNavigate();
  const [help, setHelp] = useState(false);
  const leader = useRef(0);
  const signedOut = useAppSelector((state) => state.connection.signedOut);
  useKeys((key, event) => {
    const place = key === "t" ? { to: "/test-bench" } : PLACES.find((one) => one.key === key);
    if (key === "g") leader.current = Date.now();
    else if (place && Date.now() - leader.current < 1500) {
      leader.current = 0;
      void go(place.to);
    } else if (key === "?") setHelp(true);
    else if (key === "n") void go("/take-in");
    else if (key === "/") {
      event.preventDefault();
      void go("/cards");
    }
  });
  const onNobody = useEffectEvent(() => void go("/compare"));
  useEffect(() => watchDrops(() => onNobody()), []);
  return (
    <div className="flex min-h-screen flex-col md:flex-row">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-3">
        Skip to the content
      </a>
      <header className="no-print border-line bg-sheet max-md:border-b md:w-44 md:shrink-0 md:border-r">
        <nav
          aria-label="Places"
          className="flex items-center gap-1 p-2 max-md:overflow-x-auto md:sticky md:top-0 md:flex-col md:items-stretch md:p-3"
        >
          <span className="flex items-center gap-2 px-2 py-2 font-bold tracking-tight md:mb-3 md:text-lg">
            <img src="/icon.svg" alt="" className="size-7 shrink-0 max-[420px]:hidden" />
            <span className="max-sm:sr-only">Algidus</span>
          </span>
          {PLACES.map(({ to, label, icon: Icon }) => (
            <NavLink
              key={to}
              to={to}
              end={to === "/"}
              className={({ isActive }) =>
                `flex min-h-11 items-center gap-2 rounded-lg px-3 py-2 font-medium hover:bg-frost max-[420px]:px-1.5 max-[420px]:text-sm ${isActive ? "bg-frost text-ice shadow-[inset_3px_0_0_var(--ice)]" : ""}`
              }
            >
              <Icon aria-hidden className="size-5 max-sm:hidden" />
              {label}
            </NavLink>
          ))}
          <button
            type="button"
            onClick={() => setHelp(true)}
            className="min-h-11 rounded-lg px-3 py-2 text-left text-sm text-soft hover:text-ice max-md:hidden"
          >
            Keys: press ?
          </button>
        </nav>
      </header>
      <div className="min-w-0 flex-1">
        <ConnectionBar />
        <main id="content" tabIndex={-1} className="outline-none">
          {signedOut ? (
            <SignIn />
          ) : (
            <Suspense fallback={<Waiting what="the page" />}>
              <Outlet />
            </Suspense>
          )}
        </main>
      </div>
      <ScrollRestoration />
      <Toaster
        position="bottom-right"
        toastOptions={{
          style: {
            fontFamily: "var(--font-sans)",
            fontSize: "0.95rem",
            background: "var(--sheet)",
            color: "var(--ink)",
            borderColor: "var(--edge)",
          },
        }}
      />
      {help && (
        <Suspense>
          <KeysHelp onClose={() => setHelp(false)} />
        </Suspense>
      )}
    </div>
  );
}
