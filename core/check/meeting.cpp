#include "check/meeting.h"

#include <algorithm>

#include "check/joint.h"
#include "render/frames.h"
#include "scene/run.h"

namespace oa {

std::vector<Meeting> checkMeetings(const Scene& given, int threads) {
  const Scene scene = withoutStandIns(given);
  const RunLength run = runOf(scene);
  const double shrink = std::min(1.0, 240.0 / std::max(scene.width, scene.height));
  RenderOptions options;
  options.threads = threads;
  options.run = true;
  Renderer renderer(scene, std::max(1, static_cast<int>(scene.width * shrink)), std::max(1, static_cast<int>(scene.height * shrink)),
                    options);
  // The step from a frame to the next one.
  const auto stepFrom = [&](std::int64_t frame) {
    Frame16 here;
    Frame16 after;
    renderInto(renderer, frame, here);
    renderInto(renderer, frame + 1, after);
    return meanDifference(here, after);
  };
  std::vector<Meeting> meetings;
  for (const bool leaving : {false, true}) {
    if ((leaving ? run.leave : run.arrive) < 1) continue;
    Meeting meeting;
    meeting.leaving = leaving;
    const std::int64_t meets = run.arrive + (leaving ? run.loop : 0);
    meeting.step = stepFrom(meets - 1);
    if (meets >= 2) meeting.beside = stepFrom(meets - 2);
    if (meets + 1 < run.frames()) meeting.beside = std::max(meeting.beside, stepFrom(meets));
    meeting.clean = meeting.step <= kJointLimit * meeting.beside || meeting.step < 0.02;
    meetings.push_back(meeting);
  }
  return meetings;
}

}  // namespace oa
