import { Alert, Button, Loader, NavLink } from '@mantine/core';
import { useCallback, useEffect, useState } from 'react';
import { api, saidOf } from '../../shared/api.ts';
import type { JobListEntry } from '../../shared/contracts.ts';
import { IconPlus } from '../../shared/icons.ts';
import { PageHead } from '../../shared/PageHead.tsx';
import type { Kit, KitWritten } from '../../shared/records.ts';
import { fetchStore } from '../../shared/store/studioStore.ts';
import { toldAway } from '../../shared/toldAway.tsx';
import { KitPlace } from './KitPlace.tsx';
import { writtenOf } from './useKit.ts';
import '../shelf/shelf.css';
import './kits.css';

const EMPTY: KitWritten = {
  name: 'New kit',
  copies: 25,
  items: [],
  loose: [],
  handsPerHour: 0,
  machinePerHour: 0,
  people: 1,
  note: '',
};

/** All kits of the studio, and the one that is open. */
export function Kits() {
  const [kits, setKits] = useState<readonly Kit[] | null>(null);
  const [jobs, setJobs] = useState<readonly JobListEntry[]>([]);
  const [openId, setOpenId] = useState<string | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const load = useCallback(async () => {
    try {
      const [list, all] = await Promise.all([api.kits(), api.list(), fetchStore()]);
      setKits(list);
      setJobs(all.filter(({ readable }) => readable));
      setOpenId((was) => was ?? list[0]?.id ?? null);
      setFailure(null);
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  }, []);
  useEffect(() => void load(), [load]);
  const open = kits?.find(({ id }) => id === openId) ?? null;
  const add = async (written: KitWritten) => {
    try {
      const kit = await api.addKit(written);
      setKits((was) => [kit, ...(was ?? [])]);
      setOpenId(kit.id);
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  };
  const remove = async (kit: Kit) => {
    try {
      await api.removeKit(kit.id);
      setKits((was) => (was ?? []).filter(({ id }) => id !== kit.id));
      setOpenId(null);
      toldAway(`${kit.name} was taken away.`, () => add(writtenOf(kit)));
    } catch (fault) {
      setFailure(saidOf(fault));
    }
  };
  return (
    <main className="shelf">
      <PageHead title="Kits" />
      <div className="shelf-body">
        {failure && (
          <Alert color="persimmon" title={failure} role="alert">
            <Button variant="default" onClick={() => void load()}>
              Try again
            </Button>
          </Alert>
        )}
        {!kits && !failure && <Loader size="sm" />}
        {kits && (
          <div className="kits">
            <nav aria-label="Kits">
              <Button leftSection={<IconPlus size={16} />} onClick={() => void add(EMPTY)}>
                New kit
              </Button>
              {kits.map((kit) => (
                <NavLink
                  key={kit.id}
                  component="button"
                  label={kit.name}
                  active={kit.id === openId}
                  onClick={() => setOpenId(kit.id)}
                />
              ))}
            </nav>
            {open ? (
              <KitPlace
                key={open.id}
                kit={open}
                jobs={jobs}
                onChange={(next) =>
                  setKits((was) => (was ?? []).map((kit) => (kit.id === next.id ? next : kit)))
                }
                onRemove={() => void remove(open)}
              />
            ) : (
              <p className="quiet">
                A kit is several designs and loose parts that are sold together: how many sheets, how much
                work, what it costs, what is lacking. Begin with “New kit”.
              </p>
            )}
          </div>
        )}
      </div>
    </main>
  );
}
