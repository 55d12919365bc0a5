import { Button } from "antd";
import { useWhereabouts } from "./whereabouts";

/** Tells whoever carries the phone what is noted of where they are, and asks them for it. */
export function AllowPosition() {
  const { days, permission } = useWhereabouts();
  switch (permission) {
    case "granted":
      return (
        <p className="body soft small">
          Where you are is noted when you start or stop a clock or take a photo, and deleted after {days}{" "}
          days.
        </p>
      );
    case "prompt":
      return (
        <p className="body">
          <span className="soft small">
            The office would like to know where you are when you start or stop a clock or take a photo, and at
            no other time. It is deleted after {days} days.
          </span>{" "}
          <Button
            className="tall"
            onClick={() =>
              navigator.geolocation.getCurrentPosition(
                () => undefined,
                () => undefined,
              )
            }
          >
            Allow it
          </Button>
        </p>
      );
    case "denied":
      return (
        <p className="body soft small">
          This phone does not say where it is, so nothing of that is noted when you tap.
        </p>
      );
    default:
      return null;
  }
}
