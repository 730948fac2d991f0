/**
 * Fences and their audit hold for whatever match types a plan has: plans that are fenced are built anew, and their
 * figures tell how many keywords were tried.
 */
export const up = `
update build_states set fenced_for = 0,
  fences = jsonb_set(fences, '{audit}', jsonb_build_object('tried', fences->'audit'->'exact', 'kept', fences->'audit'->'kept'))
  where jsonb_typeof(fences) = 'object';

update plans p set built_revision = greatest(p.revision - 1, 0)
  from build_states s where s.plan_id = p.id and jsonb_typeof(s.fences) = 'object';
`;
