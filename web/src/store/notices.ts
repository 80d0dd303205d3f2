import type { Kind } from "@alderman/core";
import { createSlice, nanoid, type PayloadAction } from "@reduxjs/toolkit";

/** A sentence for the owner: it goes by itself, or stays until it is closed. */
export interface Notice {
  id: string;
  sentence: string;
  stays: boolean;
  /** What of this window's own was not kept, which the owner may have after all. */
  mine?: Mine | undefined;
  /** What the button says by which they are had. */
  choice?: string | undefined;
}

/** Fields of things as this window had set them. */
export interface Mine {
  railwayId: string;
  things: { kind: Kind; id: string; fields: Record<string, unknown> }[];
}

/** Notices shown at once; the older ones make room, those that stay apart. */
const MOST = 3;

export const notices = createSlice({
  name: "notices",
  initialState: [] as Notice[],
  reducers: {
    notify: {
      prepare: (
        sentence: string,
        { stays = false, mine, choice }: { stays?: boolean; mine?: Mine; choice?: string } = {},
      ) => ({ payload: { id: nanoid(), sentence, stays, mine, choice } }),
      reducer: (state, { payload }: PayloadAction<Notice>) => {
        // the same sentence twice says no more than once
        const others = state.filter(({ sentence }) => sentence !== payload.sentence);
        const going = others.filter(({ stays }) => !stays).slice(-(MOST - 1));
        return [...others.filter(({ stays }) => stays), ...going, payload];
      },
    },
    closed: (state, { payload: id }: PayloadAction<string>) => state.filter((notice) => notice.id !== id),
  },
});

export const { notify, closed } = notices.actions;
