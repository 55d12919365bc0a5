import { createContext, type ReactNode, useContext } from "react";
import { HOME } from "./focus";

const Level = createContext(1);

/** Below it headings are one step deeper. */
export const Deeper = ({ children }: { children: ReactNode }) => (
  <Level value={useContext(Level) + 1}>{children}</Level>
);

/** A heading as deep as what it stands in: a page's own is h1. It takes the focus when what had it has gone. */
export function Heading({
  children,
  className,
  part,
}: {
  children: ReactNode;
  className?: string;
  /** It names a part of what has a heading, and is never the page's own. */
  part?: boolean;
}) {
  const level = Math.max(useContext(Level), part ? 2 : 1);
  const Tag = (["h1", "h2", "h3", "h4"] as const)[level - 1] ?? "h4";
  return (
    <Tag className={className} {...HOME}>
      {children}
    </Tag>
  );
}
