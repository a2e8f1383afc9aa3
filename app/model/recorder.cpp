#include "model/recorder.h"

#include <algorithm>

namespace oa::app {

Recorder::Recorder(Document& document, Player& player, QObject* parent) : QObject(parent), document_(document), player_(player) {
  connect(&document, &Document::changed, this, &Recorder::documentChanged);
  connect(&document, &Document::gestureEnded, this, &Recorder::gestureEnded);
  connect(&document, &Document::currentLayerChanged, this, [this] {
    if (armed_ && tracks_.empty()) before_ = document_.layer() ? std::optional(*document_.layer()) : std::nullopt;
  });
  connect(&player, &Player::frameChanged, this, &Recorder::sample);
  // Another scene has nothing to do with it.
  connect(&document, &Document::begun, this, [this] {
    tracks_.clear();
    arm(false);
    finish();
  });
}

void Recorder::arm(bool wanted) {
  if (wanted == armed_) return;
  document_.endGesture();
  armed_ = wanted;
  tracks_.clear();
  take_.reset();
  document_.holdStill({});
  before_ = wanted && document_.layer() ? std::optional(*document_.layer()) : std::nullopt;
  if (wanted) {
    player_.leaveRun();
    player_.setPlaying(true);
  }
  Q_EMIT changed();
}

void Recorder::documentChanged() {
  if (writing_) return;
  if (take_) {
    take_.reset();
    Q_EMIT changed();
  }
  if (!armed_) return;
  if (tracks_.empty()) findTracks();
  sample();
}

// The values that the gesture has begun to change.
void Recorder::findTracks() {
  const Layer* layer = document_.layer();
  if (!layer || !before_ || layer->id != before_->id) return;
  for (const edit::ChangedValue& value : edit::changedValues(*before_, *layer))
    if (edit::canRecord(*value.spec))
      tracks_.push_back({{value.at.layer, value.at.step, value.at.param, value.at.item, 0}, value.before, {}});
  if (tracks_.empty()) {
    before_ = *layer;
    return;
  }
  // The step is told of before the history counts it.
  steps_ = document_.history().index();
  frame_ = player_.frame();
  at_ = static_cast<double>(frame_) / document_.scene().frames;
  std::vector<ParamAddress> still;
  for (Track& track : tracks_) {
    track.gesture.push_back({at_, track.before.base});
    still.push_back(track.at);
  }
  document_.holdStill(std::move(still));
}

void Recorder::sample() {
  if (!armed_ || tracks_.empty() || writing_) return;
  const int frames = document_.scene().frames;
  at_ += static_cast<double>(floorMod(player_.frame() - frame_, std::int64_t{frames})) / frames;
  frame_ = player_.frame();
  for (Track& track : tracks_) {
    if (!document_.valid(track.at)) continue;
    const Value& now = document_.param(track.at).base;
    if (!track.gesture.empty() && track.gesture.back().at >= at_)
      track.gesture.back().value = now;
    else
      track.gesture.push_back({at_, now});
  }
}

void Recorder::gestureEnded() {
  if (!armed_ || tracks_.empty() || writing_) return;
  writing_ = true;
  document_.holdStill({});
  armed_ = false;
  take_ = Take();
  write();
  writing_ = false;
  // A mere click was not meant.
  if (!take_ && document_.layer()) {
    armed_ = true;
    tracks_.clear();
    before_ = *document_.layer();
  }
  Q_EMIT changed();
}

void Recorder::write() {
  std::vector<std::pair<ParamAddress, Param>> made;
  take_->keys = 0;
  take_->off = 0;
  for (const Track& track : tracks_) {
    if (!document_.valid(track.at)) continue;
    const auto recording = edit::recorded(document_.spec(track.at), track.before, track.gesture, take_->laps, take_->tolerance);
    if (!recording) continue;
    made.emplace_back(track.at, recording->param);
    take_->keys += recording->keys;
    take_->off = std::max(take_->off, recording->off);
  }
  if (made.empty()) return take_.reset();
  // The gesture's own step goes, or what was made of it before; this takes its place.
  while (document_.history().index() > steps_ && document_.history().canUndo()) document_.history().undo();
  document_.edit(tr("recorded by hand"), {}, [&](Scene& scene) {
    for (const auto& [at, param] : made) Document::param(scene, at) = param;
  });
  document_.showMotion(made.front().first);
}

void Recorder::refine(int laps, double tolerance) {
  if (!take_) return;
  writing_ = true;
  take_->laps = laps;
  take_->tolerance = tolerance;
  write();
  writing_ = false;
  Q_EMIT changed();
}

void Recorder::finish() {
  if (!take_) return;
  take_.reset();
  document_.endGesture();
  Q_EMIT changed();
}

}  // namespace oa::app
