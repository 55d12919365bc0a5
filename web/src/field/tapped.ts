import type { LateTapped } from "../api/generated/schema";

/** What was tapped, in the past tense. */
export const TAPPED: Record<LateTapped["step"], string> = {
  drive: "Set out",
  arrive: "Arrived",
  start_work: "Started work",
  pause: "Paused",
  finish: "Finished",
  start_clock: "Started a clock",
  stop_clock: "Stopped the clock",
  use_part: "Used a part",
  put_part_back: "Put a part back",
  note_serial_number: "Noted a serial number",
  note_unlisted_part: "Noted a part on no list",
  want_part: "Wanted a part",
  answer_checklist: "Answered a checklist",
  tick_line: "Ticked off a line",
  send_message: "Wrote a message",
  accept_visit: "Accepted the visit",
  tell_late: "Said to be late",
  tell_price: "Told the customer a price",
  take_money: "Took money",
  hand_back: "Handed back",
  note_time: "Wrote down own time",
  sign_week_off: "Signed the week off",
};
