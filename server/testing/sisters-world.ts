import { CHANDRA } from '../sample/people';
import { laySisters, type Sisters } from '../sample/sisters';
import { Visitor, World, WORK_DATE } from './world';

/** A world with sister companies: Salmah works with us, Chandra with Muara Bening. */
export async function sistersWorld(): Promise<{
  world: World;
  sisters: Sisters;
  salmah: Visitor;
  chandra: Visitor;
}> {
  const world = await World.make();
  const sisters = await laySisters(world.serving.database, world.masters, WORK_DATE);
  const salmah = await world.visitor();
  const chandra = new Visitor(world.serving.address);
  const { status } = await chandra.signIn(CHANDRA.signIn, CHANDRA.password);
  if (status !== 200) throw new Error(`Chandra was not let in: ${status}`);
  return { world, sisters, salmah, chandra };
}
