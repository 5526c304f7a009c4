import {
  HalfFloatType,
  LinearFilter,
  ShaderMaterial,
  WebGLRenderTarget,
  type Texture,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import { HALO_BELL, HALO_LEVELS, haloShares } from '@/core/light/halo';

/** The halo of {@link file://../../core/light/halo.ts} on the card, for the picture that is shown. */

const VERTEX = `varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`;

/** Half the size: the mean of the four pixels below; of the picture itself what is brighter than white. */
const HALVE = `
  uniform sampler2D from; uniform float exposure;
  vec3 one(ivec2 p) {
    vec3 light = texelFetch(from, min(p, textureSize(from, 0) - 1), 0).rgb;
    return exposure > 0.0 ? max(light * exposure - 1.0, 0.0) / exposure : light;
  }
  void main() {
    ivec2 p = 2 * ivec2(gl_FragCoord.xy);
    gl_FragColor = vec4((one(p) + one(p + ivec2(1, 0)) + one(p + ivec2(0, 1)) + one(p + ivec2(1, 1))) * 0.25, 1.0);
  }`;

const BELL = `
  uniform sampler2D from; uniform ivec2 along;
  vec3 one(int s) {
    ivec2 p = ivec2(gl_FragCoord.xy) + s * along;
    return texelFetch(from, clamp(p, ivec2(0), textureSize(from, 0) - 1), 0).rgb;
  }
  void main() {
    gl_FragColor = vec4(one(0) * ${HALO_BELL[0]} + (one(1) + one(-1)) * ${HALO_BELL[1]} + (one(2) + one(-2)) * ${HALO_BELL[2]}, 1.0);
  }`;

/** A picture read twice as large: by its pixels, since odd sizes are not twice each other. */
const TWICE = `
  vec3 twice(sampler2D small) { return texture2D(small, gl_FragCoord.xy * 0.5 / vec2(textureSize(small, 0))).rgb; }`;

const LAY = `
  varying vec2 at; uniform sampler2D own; uniform float share; uniform sampler2D wider; uniform float isAny;
  ${TWICE}
  void main() { gl_FragColor = vec4(texture2D(own, at).rgb * share + twice(wider) * isAny, 1.0); }`;

const SHOW = `
  varying vec2 at; uniform sampler2D picture; uniform sampler2D halo; uniform float amount; ${TWICE}
  void main() {
    vec4 sum = texture2D(picture, at);
    vec3 more = twice(halo) * amount;
    sum = vec4(sum.rgb + more, min(1.0, sum.a + max(more.r, max(more.g, more.b))));
    gl_FragColor = vec4(sum.rgb / max(sum.a, 1e-4), sum.a);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
    gl_FragColor.rgb *= gl_FragColor.a;
  }`;

const quad = (fragmentShader: string, uniforms: Record<string, unknown>, toneMapped = false) =>
  new FullScreenQuad(
    new ShaderMaterial({
      vertexShader: VERTEX,
      fragmentShader,
      uniforms: Object.fromEntries(Object.entries(uniforms).map(([name, value]) => [name, { value }])),
      depthTest: false,
      depthWrite: false,
      toneMapped,
    }),
  );

const target = () => {
  const options = {
    type: HalfFloatType,
    depthBuffer: false,
    minFilter: LinearFilter,
    magFilter: LinearFilter,
  };
  return new WebGLRenderTarget(1, 1, options);
};

export class Halo {
  private halve = quad(HALVE, { from: null, exposure: 0 });
  private bell = quad(BELL, { from: null, along: [1, 0] });
  private lay = quad(LAY, { own: null, share: 0, wider: null, isAny: 0 });
  private shown = quad(SHOW, { picture: null, halo: null, amount: 0 }, true);
  private levels = Array.from({ length: HALO_LEVELS }, () => ({ own: target(), turn: target() }));

  constructor(private gl: WebGLRenderer) {}

  /** Shows a picture with its halo, into what is drawn into now. */
  show(picture: WebGLRenderTarget, amount: number, reach: number): void {
    const { gl, levels } = this;
    const into = gl.getRenderTarget();
    let [from, width, height] = [picture.texture, picture.width, picture.height];
    levels.forEach(({ own, turn }, k) => {
      [width, height] = [Math.ceil(width / 2), Math.ceil(height / 2)];
      own.setSize(width, height);
      turn.setSize(width, height);
      this.draw(this.halve, own, { from, exposure: k === 0 ? gl.toneMappingExposure : 0 });
      this.draw(this.bell, turn, { from: own.texture, along: [1, 0] });
      this.draw(this.bell, own, { from: turn.texture, along: [0, 1] });
      from = own.texture;
    });
    // From the widest up; the last level's other half is free by now.
    const shares = haloShares(reach);
    let wider: Texture | null = null;
    for (let k = HALO_LEVELS - 1; k >= 0; k--) {
      const { own, turn } = levels[k];
      const values = {
        own: own.texture,
        share: shares[k],
        wider: wider ?? own.texture,
        isAny: wider ? 1 : 0,
      };
      this.draw(this.lay, turn, values);
      wider = turn.texture;
    }
    this.draw(this.shown, into, { picture: picture.texture, halo: wider, amount });
  }

  private draw(what: FullScreenQuad, into: WebGLRenderTarget | null, values: Record<string, unknown>): void {
    const { uniforms } = what.material as ShaderMaterial;
    for (const [name, value] of Object.entries(values)) uniforms[name].value = value;
    this.gl.setRenderTarget(into);
    what.render(this.gl);
  }

  dispose(): void {
    for (const { own, turn } of this.levels) {
      own.dispose();
      turn.dispose();
    }
    for (const what of [this.halve, this.bell, this.lay, this.shown]) {
      what.material.dispose();
      what.dispose();
    }
  }
}
