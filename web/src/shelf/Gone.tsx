import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import { PlainDialog } from "../look/PlainDialog";

/** Designs that were taken off the shelf: each comes back, or is destroyed, which is asked twice. */
export function Gone({ onClose, onChanged }: { onClose: () => void; onChanged: () => void }) {
  const queries = useQueryClient();
  const [sure, setSure] = useState<string | null>(null);
  const { data: gone } = useQuery({
    queryKey: ["gone"],
    queryFn: () => answer(client.GET("/api/designs/gone")),
    staleTime: 0,
  });
  const settle = () => {
    setSure(null);
    void queries.invalidateQueries({ queryKey: ["gone"] });
    onChanged();
  };
  const restore = useMutation({
    mutationFn: (design_id: string) =>
      answer(client.POST("/api/designs/{design_id}/restore", { params: { path: { design_id } } })),
    onSuccess: settle,
  });
  const destroy = useMutation({
    mutationFn: (design_id: string) =>
      answer(
        client.DELETE("/api/designs/{design_id}/forever", { params: { path: { design_id } } }),
      ),
    onSuccess: settle,
  });
  const refusal = restore.error ?? destroy.error;
  return (
    <PlainDialog title="Off the shelf" onClose={onClose}>
      {gone?.length === 0 && <Typography color="text.secondary">Nothing is here.</Typography>}
      <Stack
        component="ul"
        aria-label="Designs off the shelf"
        spacing={1}
        sx={{ p: 0, m: 0, listStyle: "none" }}
      >
        {gone?.map((item) => (
          <Stack
            key={item.id}
            component="li"
            direction="row"
            spacing={1}
            sx={{ alignItems: "center" }}
          >
            <Typography noWrap sx={{ flex: 1 }}>
              {item.name}
            </Typography>
            <Typography variant="caption" color="text.secondary">
              since {new Date(item.deleted).toLocaleDateString()}
            </Typography>
            <Button onClick={() => restore.mutate(item.id)} aria-label={`Put ${item.name} back`}>
              Put back
            </Button>
            <Button
              color={sure === item.id ? "error" : "primary"}
              onClick={() => (sure === item.id ? destroy.mutate(item.id) : setSure(item.id))}
              aria-label={
                sure === item.id ? `Destroy ${item.name} for good` : `Destroy ${item.name}`
              }
            >
              {sure === item.id ? "For good" : "Destroy"}
            </Button>
          </Stack>
        ))}
      </Stack>
      {refusal && (
        <Typography variant="body2" color="error" role="alert" sx={{ mt: 1 }}>
          {refusal.message}.
        </Typography>
      )}
    </PlainDialog>
  );
}
