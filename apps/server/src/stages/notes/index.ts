import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { addNoteTo, changeNoteOf, marksOf, myWork, notesOf, removeNoteOf } from './notes.ts';

/** Notes on what a plan has, and what is given to whom. */
export const noteRoutes = (): Router => {
  const router = Router();
  mount(router, api.listNotes, (caller, { query }) => notesOf(caller, query));
  mount(router, api.readNoteMarks, (caller) => marksOf(caller));
  mount(router, api.addNote, (caller, { body }) => addNoteTo(caller, body));
  mount(router, api.changeNote, async (caller, { params, body }) => {
    await changeNoteOf(caller, params.note, body);
    return {};
  });
  mount(router, api.removeNote, async (caller, { params }) => {
    await removeNoteOf(caller, params.note);
    return {};
  });
  mount(router, api.listMyWork, (caller) => myWork(caller));
  return router;
};
