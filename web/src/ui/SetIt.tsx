import type { ReactNode } from "react";
import { Button } from "./Button";

export function SetIt({
  children,
  label,
  onClick,
}: {
  children?: ReactNode;
  label: string;
  onClick: () => void;
}) {
  return (
    <Button
      onClick={onClick}
      aria-label={`${typeof children === "string" ? children : "Set it"}: ${label}`}
    >
      {children ?? "Set it"}
    </Button>
  );
}
