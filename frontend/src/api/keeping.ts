/** Copies of everything, and how Valley stands. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, unwrap } from "./client";

export function useHealth() {
  return useQuery({ queryKey: ["health"], queryFn: () => unwrap(client.GET("/api/health")), refetchInterval: 10_000 });
}

export function useBackups() {
  return useQuery({ queryKey: ["backups"], queryFn: () => unwrap(client.GET("/api/backups")) });
}

export function useKeepCopy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => unwrap(client.POST("/api/backups")),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["backups"] });
      void queries.invalidateQueries({ queryKey: ["health"] });
    },
  });
}
