import type { Design } from '@hollow-finch/core/design/design';

/** The design once every family that it uses is loaded: what stands by itself comes when it is needed. */
export async function withFamilies<D extends Pick<Design, 'instances'>>(design: D): Promise<D> {
  const { familyById } = await import('@hollow-finch/core/mechanisms/registry');
  if (Object.values(design.instances).some(({ family }) => !familyById(family)))
    await import('@hollow-finch/core/mechanisms/structures/all');
  return design;
}
