import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import {
  Box3,
  DoubleSide,
  Sphere,
  Vector3,
  type Group,
  type Mesh,
  type MeshStandardMaterial,
} from "three";
import { GLTFLoader } from "three/addons/loaders/GLTFLoader.js";
import type { Ran } from "../api/client";
import { Camera } from "../bench/Camera";
import { Space } from "../bench/Space";
import { useLook } from "../look/Look";
import { digits } from "../look/numbers";
import { VerdictMark } from "../look/Verdict";

interface Props {
  address: string;
  run: Ran;
  frame: number;
  onFrame: (frame: number) => void;
}

/** Plays the animation; every frame wears its verdict below. */
export function Player({ address, run, frame, onFrame }: Props) {
  const { colours } = useLook();
  const [playing, setPlaying] = useState(false);
  const last = run.frames.length - 1;
  const { data: scene } = useQuery({
    queryKey: ["film", address],
    queryFn: async () => (await new GLTFLoader().loadAsync(address)).scene,
    staleTime: Infinity,
    gcTime: 0,
  });
  useEffect(() => {
    if (!playing) return;
    const timer = setInterval(
      () => onFrame(frame >= last ? 0 : frame + 1),
      (1000 * run.seconds) / run.frames.length,
    );
    return () => clearInterval(timer);
  }, [playing, frame, last, run, onFrame]);
  const seconds = (run.seconds * frame) / last;
  return (
    <Box sx={{ position: "absolute", inset: 0, display: "grid", gridTemplateRows: "1fr auto" }}>
      <Box
        sx={{ position: "relative", minHeight: 0 }}
        role="region"
        aria-label="The part in motion"
      >
        {scene && <Stage scene={scene} frame={frame} stopped={isStopped(run, frame)} />}
      </Box>
      <Box sx={{ borderTop: 1, borderColor: "divider", px: 2, py: 1 }}>
        <Box
          sx={{ display: "flex", height: 16, mx: "6px" }}
          role="img"
          aria-label={`${run.frames.length} frames, ${
            run.frames.filter((one) => one.verdict === "clear").length
          } clear`}
        >
          {run.frames.map((one, k) => (
            <Box
              key={k}
              sx={{
                flex: 1,
                display: "flex",
                justifyContent: "center",
                borderBottom: k === frame ? `3px solid ${colours.ink}` : "3px solid transparent",
              }}
            >
              {(k % Math.ceil(run.frames.length / 40) === 0 || k === run.clash) && (
                <VerdictMark verdict={one.verdict} size={8} />
              )}
            </Box>
          ))}
        </Box>
        <Stack direction="row" spacing={2} sx={{ alignItems: "center" }}>
          <Button variant="outlined" onClick={() => setPlaying(!playing)} sx={{ flex: "none" }}>
            {playing ? "Hold" : "Play"}
          </Button>
          <Slider
            aria-label="Frame"
            min={0}
            max={last}
            step={1}
            value={frame}
            onChange={(_, next) => onFrame(next as number)}
          />
          <Typography variant="body2" sx={{ flex: "none", fontVariantNumeric: "tabular-nums" }}>
            {digits(seconds, 3)} s
          </Typography>
        </Stack>
      </Box>
    </Box>
  );
}

function isStopped(run: Ran, frame: number): boolean {
  const verdict = run.frames[frame]?.verdict;
  return verdict === "stop" || verdict === "unusable";
}

function Stage({ scene, frame, stopped }: { scene: Group; frame: number; stopped: boolean }) {
  const { colours } = useLook();
  const [wanted] = useState({ view: "Fit" as const, count: 0 });
  const pieces = useMemo(() => {
    const found: Mesh[] = [];
    scene.traverse((object) => {
      const mesh = object as Mesh;
      if (mesh.isMesh) found.push(mesh);
    });
    return found;
  }, [scene]);
  const sphere = useMemo(() => {
    const box = new Box3();
    for (const { geometry } of pieces) {
      const base = geometry.getAttribute("position");
      const moves = geometry.morphAttributes.position ?? [];
      const some = moves.filter((_, k) => k % Math.ceil(moves.length / 8) === 0);
      for (let i = 0; i < base.count; i++) {
        const place = new Vector3().fromBufferAttribute(base, i);
        box.expandByPoint(place);
        for (const move of some) {
          box.expandByPoint(new Vector3().fromBufferAttribute(move, i).add(place));
        }
      }
    }
    return box.getBoundingSphere(new Sphere());
  }, [pieces]);
  return (
    <Space>
      <Camera parallel={false} sphere={sphere} wanted={wanted} />
      <hemisphereLight args={["#ffffff", "#8a7d6c", 1.5]} />
      <directionalLight position={[-40, -90, 120]} intensity={2.2} />
      {pieces.map((piece) => (
        <Morphing
          key={piece.uuid}
          mesh={piece}
          frame={frame}
          colour={stopped ? colours.stop : "#b8693d"}
        />
      ))}
    </Space>
  );
}

function Morphing(props: { mesh: Mesh; frame: number; colour: string }) {
  const { mesh, frame, colour } = props;
  const invalidate = useThree((state) => state.invalidate);
  const own = useMemo(() => {
    const copy = mesh.clone();
    copy.position.set(0, 0, 0);
    copy.rotation.set(0, 0, 0);
    copy.scale.set(1, 1, 1);
    copy.material = (mesh.material as MeshStandardMaterial).clone();
    return copy;
  }, [mesh]);
  useEffect(() => {
    const influences = own.morphTargetInfluences;
    influences?.fill(0);
    if (influences && frame > 0) influences[frame - 1] = 1;
    const material = own.material as MeshStandardMaterial;
    material.color.set(colour);
    material.metalness = 0.25;
    material.roughness = 0.42;
    material.side = DoubleSide;
    invalidate();
  }, [own, frame, colour, invalidate]);
  return <primitive object={own} dispose={null} />;
}
