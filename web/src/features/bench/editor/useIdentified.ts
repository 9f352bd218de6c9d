import { useQuery } from "@tanstack/react-query";
import { identify } from "../../../api/builds";
import type { Facts } from "../../../api/types";

/** What facts tell, asked while there are some; the answer before stays until the next is there. */
export const useIdentified = (facts: Facts, asked: boolean) =>
  useQuery({
    queryKey: ["identify", facts],
    queryFn: () => identify(facts),
    enabled: asked,
    placeholderData: (before) => before,
    retry: false,
  });
