#include "check/meeting.h"

#include <algorithm>

#include "check/joint.h"
#include "render/frames.h"
#include "scene/run.h"
#include "scene/tree.h"

namespace oa {
namespace {

// So far away is looked at most.
constexpr std::int64_t kMostHeld = 24;

}  // namespace

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
  // Held pictures make a step only once in a while.
  std::int64_t held = scene.hold;
  forEachLayer(scene.layers, [&](const Layer& layer, int) { held = std::max<std::int64_t>(held, layer.hold); });
  held = std::min(held, kMostHeld);
  std::vector<Meeting> meetings;
  for (const bool leaving : {false, true}) {
    if ((leaving ? run.leave : run.arrive) < 1) continue;
    Meeting meeting;
    meeting.leaving = leaving;
    const std::int64_t meets = run.arrive + (leaving ? run.loop : 0);
    meeting.step = stepFrom(meets - 1);
    for (std::int64_t from = std::max<std::int64_t>(0, meets - 1 - held); from <= std::min(meets - 1 + held, run.frames() - 2); ++from)
      if (from != meets - 1) meeting.beside = std::max(meeting.beside, stepFrom(from));
    meeting.clean = meeting.step <= kJointLimit * meeting.beside || meeting.step < 0.02;
    meetings.push_back(meeting);
  }
  return meetings;
}

}  // namespace oa
