#include "model/first_steps.h"

#include <algorithm>

#include "edit/recorded.h"
#include "scene/tree.h"

namespace oa::app {
namespace {

enum Step { Play, Change, Move, Add, HandOver };

struct Words {
  const char* title;
  const char* how;
};
// The steps in their order, and what is said when all are done.
constexpr Words kWords[] = {
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Watch it go round"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps",
                       "Press Space, or the middle of the dial. The last frame leads into the first: it has no end.")},
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Change how it looks"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Drag any value on a card on the right: the size of the cells, a colour, the roughness.")},
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Set something moving"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps",
                       "The button behind a value says how it moves; a dash means that it rests. Press one and choose Swing.")},
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Lay something over it"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Press + over the layers on the left, and choose what the new layer is made of.")},
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "Hand it over"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps",
                       "Press Export…: a video, an animated picture or numbered pictures, as long as the loop or several times as long.")},
    {QT_TRANSLATE_NOOP("oa::app::FirstSteps", "That is all it takes"),
     QT_TRANSLATE_NOOP("oa::app::FirstSteps", "F1 tells of whatever has the focus. The starters are there to be taken apart.")}};

int layersIn(const Scene& scene) {
  int count = 0;
  forEachLayer(scene.layers, [&](const Layer&, int) { ++count; });
  return count;
}

// Whether a layer that both have has a value that is another one now.
bool valueChanged(const Scene& before, const Scene& after) {
  bool changed = false;
  forEachLayer(after.layers, [&](const Layer& layer, int) {
    const Layer* was = findLayer(before, layer.id);
    changed = changed || (was && !edit::changedValues(*was, layer).empty());
  });
  return changed;
}

}  // namespace

FirstSteps::FirstSteps(Document& document, Player& player, QObject* parent) : QObject(parent), document_(document), player_(player) {
  connect(&document, &Document::changed, this, &FirstSteps::look);
  connect(&player, &Player::playingChanged, this, [this](bool playing) {
    if (playing) finish(Play);
  });
}

void FirstSteps::begin() {
  before_ = document_.scene();
  done_ = {};
  running_ = true;
  if (player_.playing()) done_[Play] = true;
  Q_EMIT changed();
}

void FirstSteps::leave() {
  if (!running_) return;
  running_ = false;
  Q_EMIT changed();
}

int FirstSteps::now() const { return static_cast<int>(std::find(done_.begin(), done_.end(), false) - done_.begin()); }

void FirstSteps::finish(int step) {
  if (!running_ || done(step)) return;
  done_[static_cast<std::size_t>(step)] = true;
  Q_EMIT changed();
}

void FirstSteps::look() {
  if (!running_) return;
  const Scene& scene = document_.scene();
  if (!done(Change) && valueChanged(before_, scene)) finish(Change);
  if (!done(Add) && layersIn(scene) > layersIn(before_)) finish(Add);
  // What a new layer brings along does not count.
  const auto moving = [&](const Scene& of) {
    std::size_t count = 0;
    for (const edit::Timed& timed : edit::motionsIn(of)) count += findLayer(before_, timed.at.layer) ? 1 : 0;
    return count;
  };
  if (!done(Move) && moving(scene) > moving(before_)) finish(Move);
}

QString FirstSteps::title(int step) { return tr(kWords[std::clamp(step, 0, kCount)].title); }
QString FirstSteps::how(int step) { return tr(kWords[std::clamp(step, 0, kCount)].how); }

}  // namespace oa::app
