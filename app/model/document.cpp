#include "model/document.h"

#include <QUndoCommand>
#include <algorithm>

#include "scene/recolour.h"
#include "scene/scene_file.h"

namespace oa::app {
namespace {

bool sameShape(const Scene& a, const Scene& b) {
  if (a.layers.size() != b.layers.size()) return false;
  for (std::size_t i = 0; i < a.layers.size(); ++i) {
    const auto& p = a.layers[i].recipe;
    const auto& q = b.layers[i].recipe;
    if (a.layers[i].name != b.layers[i].name || a.layers[i].locked != b.layers[i].locked || p.size() != q.size()) return false;
    for (std::size_t j = 0; j < p.size(); ++j)
      if (p[j].spec != q[j].spec || p[j].on != q[j].on) return false;
  }
  return true;
}

}  // namespace

// Scenes are small, so a step of the history is simply the scene before and after.
class SceneCommand : public QUndoCommand {
 public:
  SceneCommand(Document& document, Scene before, Scene after, const QString& label, QString gesture)
      : QUndoCommand(label), document_(document), before_(std::move(before)), after_(std::move(after)), gesture_(std::move(gesture)) {}
  void undo() override { document_.apply(before_); }
  void redo() override { document_.apply(after_); }
  [[nodiscard]] int id() const override { return 1; }
  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = static_cast<const SceneCommand*>(other);
    if (gesture_.isEmpty() || gesture_ != next->gesture_) return false;
    after_ = next->after_;
    setText(next->text());
    setObsolete(before_ == after_);
    return true;
  }

 private:
  Document& document_;
  Scene before_;
  Scene after_;
  QString gesture_;
};

Document::Document(QObject* parent) : QObject(parent) {
  history_.setUndoLimit(500);
  connect(&history_, &QUndoStack::cleanChanged, this, &Document::fileChanged);
}

void Document::edit(const QString& label, const QString& gesture, const std::function<void(Scene&)>& change) {
  Scene after = scene_;
  change(after);
  if (after == scene_) return;
  const QString key = gesture.isEmpty() ? QString() : gesture + QLatin1Char('#') + QString::number(gestureNumber_);
  history_.push(new SceneCommand(*this, scene_, std::move(after), label, key));
}

void Document::apply(const Scene& scene) {
  const bool structure = !sameShape(scene, scene_);
  scene_ = scene;
  const int last = static_cast<int>(scene_.layers.size()) - 1;
  if (current_ > last) {
    current_ = std::max(0, last);
    Q_EMIT currentLayerChanged();
  }
  Q_EMIT changed(structure);
}

void Document::reset(Scene scene, const QString& path) {
  scene_ = std::move(scene);
  path_ = path;
  neverSaved_ = false;
  current_ = std::max(0, static_cast<int>(scene_.layers.size()) - 1);
  history_.clear();
  Q_EMIT changed(true);
  Q_EMIT currentLayerChanged();
  Q_EMIT fileChanged();
}

Status Document::save(const QString& path) {
  if (auto saved = saveScene(scene_, path.toStdString()); !saved) return saved;
  path_ = path;
  neverSaved_ = false;
  history_.setClean();
  Q_EMIT fileChanged();
  return {};
}

void Document::setCurrentLayer(int index) {
  index = std::clamp(index, 0, std::max(0, static_cast<int>(scene_.layers.size()) - 1));
  if (index == current_) return;
  current_ = index;
  Q_EMIT currentLayerChanged();
}

const Layer* Document::layer() const {
  return current_ < static_cast<int>(scene_.layers.size()) ? &scene_.layers[static_cast<std::size_t>(current_)] : nullptr;
}

bool Document::valid(const ParamAddress& at) const {
  if (at.layer < 0 || at.layer >= static_cast<int>(scene_.layers.size())) return false;
  if (at.step == ParamAddress::kOpacity) return true;
  const auto& recipe = scene_.layers[static_cast<std::size_t>(at.layer)].recipe;
  return at.step >= 0 && at.step < static_cast<int>(recipe.size()) && at.param >= 0 &&
         at.param < static_cast<int>(recipe[static_cast<std::size_t>(at.step)].params.size());
}

const ParamSpec& Document::spec(const Scene& scene, const ParamAddress& at) {
  if (at.step == ParamAddress::kOpacity) return opacitySpec();
  return scene.layers[static_cast<std::size_t>(at.layer)]
      .recipe[static_cast<std::size_t>(at.step)]
      .spec->params[static_cast<std::size_t>(at.param)];
}

Param& Document::param(Scene& scene, const ParamAddress& at) {
  Layer& layer = scene.layers[static_cast<std::size_t>(at.layer)];
  if (at.step == ParamAddress::kOpacity) return layer.opacity;
  return layer.recipe[static_cast<std::size_t>(at.step)].params[static_cast<std::size_t>(at.param)];
}

const Param& Document::param(const Scene& scene, const ParamAddress& at) { return param(const_cast<Scene&>(scene), at); }

std::vector<Colour> Document::colours() const { return scene_.palette.colours.empty() ? coloursOf(scene_) : scene_.palette.colours; }

QString Document::labelOf(const ParamAddress& at) const {
  const ParamSpec& s = spec(at);
  return QString::fromStdString(scene_.layers[static_cast<std::size_t>(at.layer)].name) + QStringLiteral(" · ") +
         QString::fromUtf8(s.label.data(), static_cast<qsizetype>(s.label.size())).toLower();
}

namespace {
QString gestureOf(const char* verb, const ParamAddress& at) {
  return QStringLiteral("%1/%2/%3/%4").arg(QLatin1String(verb)).arg(at.layer).arg(at.step).arg(at.param);
}
}  // namespace

namespace {

// `value` moved as `to` is moved from `from`: numbers and places by as much, within their range; of other values those that
// were equal become equal again.
Value moved(const ParamSpec& spec, const Value& value, const Value& from, const Value& to) {
  const auto shifted = [&](double v, double a, double b) {
    return spec.rule == LoopRule::Round ? v + b - a : std::clamp(v + b - a, spec.min, spec.max);
  };
  if (const auto* v = std::get_if<double>(&value)) return shifted(*v, std::get<double>(from), std::get<double>(to));
  if (const auto* v = std::get_if<Point>(&value)) {
    const Point a = std::get<Point>(from);
    const Point b = std::get<Point>(to);
    return Point{shifted(v->x, a.x, b.x), shifted(v->y, a.y, b.y)};
  }
  return value == from ? to : value;
}

}  // namespace

void Document::setBase(const ParamAddress& at, const Value& value, bool gesture) {
  edit(labelOf(at), gesture ? gestureOf("value", at) : QString(), [&](Scene& scene) {
    Param& p = param(scene, at);
    const ParamSpec& s = spec(scene, at);
    // A parameter at rest keeps its far end with it, so that a swing given to it later starts from here; what wanders, hops or
    // has keyframes takes them along.
    if (p.motion.kind == MotionKind::Still || p.motion.kind == MotionKind::Turn) p.motion.far = value;
    if (p.motion.kind == MotionKind::Wander || p.motion.kind == MotionKind::Hops) p.motion.far = moved(s, p.motion.far, p.base, value);
    for (Keyframe& key : p.motion.keys) key.value = moved(s, key.value, p.base, value);
    p.base = value;
  });
}

void Document::setMotion(const ParamAddress& at, const Motion& motion, bool gesture) {
  edit(labelOf(at), gesture ? gestureOf("motion", at) : QString(), [&](Scene& scene) { param(scene, at).motion = motion; });
}

}  // namespace oa::app
