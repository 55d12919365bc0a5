package app.pragmata.server.field;

import app.pragmata.server.field.TapPositions.TapAtSite;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** How far from the site clocks were tapped, over HTTP. */
@RestController
class TapPositionsApi {
  private final TapPositions positions;

  TapPositionsApi(TapPositions positions) {
    this.positions = positions;
  }

  /** Of a job's clocks, those of which the phone said where it was. */
  @GetMapping("/api/jobs/{id}/tap-positions")
  List<TapAtSite> listTapPositions(@PathVariable long id) {
    return positions.list(id);
  }
}
