import * as THREE from 'three';
import { FONT } from '../theme/tokens';

const HEIGHT = 44;

/**
 * A line of figures on the bench that always faces the viewer; `pixels` is its height on the screen.
 *
 * @param behind Whether what stands before it hides it, as things in the world are; what is asked for is seen through everything.
 */
export function makeLabel(text: string, colour: string, ground: string, pixels = 15, behind = false): THREE.Sprite {
  const canvas = document.createElement('canvas');
  const context = canvas.getContext('2d')!;
  const font = `500 ${HEIGHT * 0.62}px ${FONT.figures}`;
  context.font = font;
  canvas.width = Math.ceil(context.measureText(text).width) + 20;
  canvas.height = HEIGHT;
  context.font = font;
  context.textBaseline = 'middle';
  context.textAlign = 'center';
  context.fillStyle = ground;
  context.globalAlpha = 0.82;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.globalAlpha = 1;
  context.fillStyle = colour;
  context.fillText(text, canvas.width / 2, canvas.height / 2 + 2);
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  const sprite = new THREE.Sprite(
    new THREE.SpriteMaterial({ map: texture, depthTest: behind, depthWrite: false, transparent: true, sizeAttenuation: false }),
  );
  sprite.userData.pixels = { width: (canvas.width / HEIGHT) * pixels, height: pixels };
  sprite.renderOrder = 20;
  return sprite;
}

/** Keeps labels at their size in pixels, whatever the viewer's height and angle. */
export function sizeLabels(root: THREE.Object3D, camera: THREE.PerspectiveCamera, viewportHeight: number): void {
  const perPixel = (2 * Math.tan((camera.fov * Math.PI) / 360)) / viewportHeight / camera.zoom;
  root.traverse((object) => {
    const pixels = object.userData.pixels as { width: number; height: number } | undefined;
    if (pixels) object.scale.set(pixels.width * perPixel, pixels.height * perPixel, 1);
  });
}

export function disposeTree(root: THREE.Object3D): void {
  root.traverse((object) => {
    const drawn = object as THREE.Mesh;
    drawn.geometry?.dispose();
    if (object instanceof THREE.InstancedMesh) object.dispose();
    for (const material of [drawn.material].flat()) {
      if (!material) continue;
      (material as THREE.MeshBasicMaterial).map?.dispose();
      material.dispose();
    }
  });
  root.removeFromParent();
}
