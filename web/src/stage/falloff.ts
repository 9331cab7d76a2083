import { ShaderChunk } from 'three';

/**
 * Light falls off as the open standard for lamps says (KHR_lights_punctual): with distance by max(min(1 − (d / range)⁴, 1), 0) / d², across a cone by the
 * square of a straight line in the cosine. A panel shines by Lambert's cosine; it comes as a cone that is wider than a half space.
 */
export function fallOffByTheStandard(): void {
  replace(
    'lights_pars_begin',
    '1.0 / max( pow( lightDistance, decayExponent ), 0.01 )',
    '1.0 / max( lightDistance * lightDistance, 1e-8 )',
  );
  replace(
    'lights_pars_begin',
    'pow2( saturate( 1.0 - pow4( lightDistance / cutoffDistance ) ) )',
    'saturate( 1.0 - pow4( lightDistance / cutoffDistance ) )',
  );
  replace(
    'lights_pars_begin',
    'return smoothstep( coneCosine, penumbraCosine, angleCosine );',
    `if ( coneCosine < -0.0005 ) return max( angleCosine, 0.0 );
	return pow2( saturate( ( angleCosine - coneCosine ) / max( penumbraCosine - coneCosine, 1e-4 ) ) );`,
  );
  // Of a still: light from one direction of the surroundings, seen or not. It lights what is rough; mirrors show the surroundings whole.
  replace(
    'lights_fragment_begin',
    /(vDirectionalShadowCoord\[ i \] \) : 1\.0;\s*#endif\s*)(RE_Direct\([^;]*;)/,
    (_, before: string, light: string) => `${before}
		#if defined( FROM_ALL_SIDES ) && ( UNROLLED_LOOP_INDEX == 0 )
		reflectedLight.directDiffuse += saturate( dot( geometryNormal, directLight.direction ) ) * directLight.color * BRDF_Lambert( material.diffuseContribution );
		#else
		${light}
		#endif
`,
  );
  replace(
    'lights_fragment_maps',
    'iblIrradiance += getIBLIrradiance( geometryNormal );',
    `#ifndef FROM_ALL_SIDES
			iblIrradiance += getIBLIrradiance( geometryNormal );
			#endif`,
  );
}

function replace(
  chunk: 'lights_pars_begin' | 'lights_fragment_begin' | 'lights_fragment_maps',
  from: string | RegExp,
  to: string | ((...found: string[]) => string),
): void {
  const text = ShaderChunk[chunk];
  const now = text.replace(from, typeof to === 'string' ? () => to : to);
  // Another version of three.js says it otherwise.
  if (now === text) throw new Error(`The falloff of light is not where it was: ${chunk}.`);
  ShaderChunk[chunk] = now;
}

fallOffByTheStandard();
