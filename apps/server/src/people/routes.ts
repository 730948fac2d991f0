import * as api from '@sprig/contracts';
import { writeTextField } from '@sprig/core/sheets';
import { type Request, Router } from 'express';
import { ResponseStream } from '../http/backpressure.ts';
import { mount, mountOpen, mountRaw } from '../http/mount.ts';
import type { Sender } from '../platform/caller.ts';
import { notFound } from '../platform/failure.ts';
import * as account from './account.ts';
import { allAuditOf, auditOf } from './audit.ts';
import * as door from './door.ts';
import { askerOf, type Doorway, isFromHere } from './doorway.ts';
import { tellHere } from './here.ts';
import { mailboxOf } from './mailer.ts';
import * as members from './members.ts';
import { endToken, listTokens, makeToken } from './tokens.ts';

const done = {};

/** What is asked at the door, of one's own account, and of who is in the workspace. */
export const peopleRoutes = (doorway: Doorway): Router => {
  const router = Router();
  doorRoutes(router, doorway);
  accountRoutes(router, doorway);
  memberRoutes(router, doorway);
  return router;
};

function doorRoutes(router: Router, doorway: Doorway): void {
  mountOpen(router, api.readDoor, (_, request) => door.doorOf(doorway, request));
  mountOpen(router, api.signIn, ({ body }, request) => door.signIn(doorway, request, body));
  mountOpen(router, api.signInByCode, ({ body }, request) => door.signInByCode(doorway, request, body));
  mountOpen(router, api.enterDemo, ({ body }, request) => door.enterDemo(doorway, request, body.person));
  mountOpen(router, api.signOut, async (_, request) => {
    await door.signOut(doorway, request);
    return done;
  });
  mountOpen(router, api.makeOwner, ({ body }, request) => door.makeOwner(doorway, request, body));
  mountOpen(router, api.forgetPassword, async ({ body }, request) => {
    await door.forgetPassword(doorway, request, body.email);
    return done;
  });
  mountOpen(router, api.readLink, ({ body }) => door.readLink(doorway, body.token));
  mountOpen(router, api.acceptInvitation, ({ body }, request) =>
    door.acceptInvitation(doorway, request, body),
  );
  mountOpen(router, api.resetPassword, async ({ body }, request) => {
    await door.resetPassword(doorway, request, body);
    return done;
  });
  mountOpen(router, api.readMailbox, async (_, request) => {
    if (!doorway.hasDemo || doorway.mailer.leaves || !isFromHere(request)) throw notFound('mailbox');
    return { mails: await mailboxOf(doorway.database) };
  });
}

function accountRoutes(router: Router, doorway: Doorway): void {
  mount(router, api.changeMyName, async (_, { body }, request) => {
    await account.changeMyName(doorway, request, body.name);
    return done;
  });
  mount(router, api.changePassword, async (_, { body }, request) => {
    await account.changePassword(doorway, request, body);
    return done;
  });
  mount(router, api.chooseWorkspace, async (_, { body }, request) => {
    await account.chooseWorkspace(doorway, request, body.workspace);
    return done;
  });
  mount(router, api.beginSecondFactor, (_, { body }, request) =>
    account.beginSecondFactor(doorway, request, body.password),
  );
  mount(router, api.confirmSecondFactor, (_, { body }, request) =>
    account.confirmSecondFactor(doorway, request, body.code),
  );
  mount(router, api.endSecondFactor, async (_, { body }, request) => {
    await account.endSecondFactor(doorway, request, body.password);
    return done;
  });
  mount(router, api.listSessions, async (_caller, _input, request) => ({
    sessions: await account.sessionsOf(doorway, request),
  }));
  mount(router, api.endSessions, async (_, { body }, request) => ({
    ended: await account.endSessions(doorway, request, body.session),
  }));
}

function memberRoutes(router: Router, doorway: Doorway): void {
  // What is read of people is the door's: a caller's own connections don't see them.
  const known = <S extends Sender>(caller: S): S => ({ ...caller, database: doorway.database });
  const asker = <S extends Sender>(caller: S, request: Request) => askerOf(doorway, caller, request);
  mount(router, api.listPeople, (caller) => members.listPeople(known(caller)));
  mount(router, api.renameWorkspace, async (caller, { body }, request) => {
    await members.renameWorkspace(asker(caller, request), body.name);
    return done;
  });
  mount(router, api.askAcceptance, async (caller, { body }, request) => {
    await members.askAcceptance(asker(caller, request), body.asks);
    return done;
  });
  mount(router, api.invitePerson, (caller, { body }, request) =>
    members.invitePerson(doorway, asker(caller, request), body),
  );
  mount(router, api.takeBackInvitation, async (caller, { params }, request) => {
    await members.takeBackInvitation(asker(caller, request), params.invitation);
    return done;
  });
  mount(router, api.listTokens, async (caller) => ({ tokens: await listTokens(known(caller)) }));
  mount(router, api.makeToken, (caller, { body }, request) => makeToken(asker(caller, request), body));
  mount(router, api.endToken, async (caller, { params }, request) => {
    await endToken(asker(caller, request), params.token);
    return done;
  });
  mount(router, api.readAudit, (caller, { query }) => auditOf(known(caller), query));
  mountRaw(router, api.saveAudit, async (caller, _input, _request, response) => {
    response.attachment('audit-trail.csv').type('text/csv; charset=utf-8').set('cache-control', 'no-store');
    const out = new ResponseStream(response);
    await out.write(Buffer.from('At,What,Who,About,From\r\n'));
    for await (const entries of allAuditOf(known(caller)))
      await out.write(
        Buffer.from(
          entries
            .map(({ at, kind, name, about, address }) =>
              [at, kind, name ?? '', about, address].map((cell) => writeTextField(cell, ',')).join(','),
            )
            .join('\r\n')
            .concat('\r\n'),
        ),
      );
    out.end();
  });
  mount(router, api.changeMember, async (caller, { params, body }, request) => {
    await members.changeMember(asker(caller, request), params.actor, body);
    return done;
  });
  mount(router, api.removeMember, async (caller, { params }, request) => {
    await members.removeMember(asker(caller, request), params.actor);
    return done;
  });
  mount(router, api.announceHere, async (caller, { body }) => {
    const { database, plan, actor } = caller;
    await tellHere(database, [{ plan, actor, place: body.place, field: body.field }]);
    return done;
  });
  mount(router, api.listPlanPeople, async (caller) => ({ people: await members.planPeople(known(caller)) }));
  mount(router, api.setPlanRole, async (caller, { params, body }, request) => {
    await members.setPlanRole(asker(caller, request), params.actor, body.here);
    return done;
  });
}
