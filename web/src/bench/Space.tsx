import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Canvas, type GLProps } from "@react-three/fiber";
import { useState, type ReactNode } from "react";
import { WebGLRenderer, type WebGLRendererParameters } from "three";

/** What draws; where the browser cannot, it is told, and nothing is waited for. */
function drawer(cannot: () => void): GLProps {
  return async (props) => {
    try {
      const renderer = new WebGLRenderer(props as WebGLRendererParameters);
      renderer.localClippingEnabled = true;
      return renderer;
    } catch {
      cannot();
      return new Promise<WebGLRenderer>(() => undefined);
    }
  };
}

/** The place where the part is drawn in space; says so where the browser cannot draw, or lost what it drew with. */
export function Space({ children }: { children: ReactNode }) {
  const [able, setAble] = useState(true);
  const [lost, setLost] = useState(false);
  if (!able) {
    return (
      <Said title="This browser cannot show the part in 3D">
        WebGL is switched off or missing. Figures, checks, drawings and files work without it;
        switch WebGL on to see the part.
      </Said>
    );
  }
  if (lost) {
    return (
      <Said title="The 3D view was lost">
        The graphics of this computer were reset. The design is as it was.{" "}
        <Button onClick={() => setLost(false)}>Draw it again</Button>
      </Said>
    );
  }
  return (
    <Canvas
      frameloop="demand"
      gl={drawer(() => setAble(false))}
      dpr={[1, 2]}
      onCreated={({ gl }) =>
        gl.domElement.addEventListener("webglcontextlost", (event) => {
          event.preventDefault();
          if (gl.domElement.isConnected) setLost(true);
        })
      }
    >
      {children}
    </Canvas>
  );
}

function Said({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ position: "absolute", inset: 0, display: "grid", placeContent: "center" }}>
      <Box sx={{ maxWidth: 380 }} role="alert">
        <Typography variant="h2" gutterBottom>
          {title}
        </Typography>
        <Typography component="div">{children}</Typography>
      </Box>
    </Box>
  );
}
