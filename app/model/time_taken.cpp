#include "model/time_taken.h"

#include <QStringList>
#include <algorithm>
#include <vector>

#include "base/numbers.h"
#include "model/background.h"
#include "model/document.h"
#include "steps/step.h"

namespace oa::app {
namespace {

constexpr int kRestMs = 300;
constexpr int kFrames = 5;
// Larger scenes are measured at this: the shares of their layers are the same, and the answer is there sooner.
constexpr int kLongest = 1920;  // of its longer side

QString titleOf(const std::string& step) {
  const std::string_view title = findStep(step)->title;
  return QString::fromUtf8(title.data(), static_cast<qsizetype>(title.size())).toLower();
}

}  // namespace

TimeTaken::TimeTaken(Document& document) : QObject(&document), document_(document) {
  rest_.setSingleShot(true);
  rest_.setInterval(kRestMs);
  connect(&rest_, &QTimer::timeout, this, &TimeTaken::measure);
  connect(&document, &Document::changed, this, [this] {
    if (!on_) return;
    stop();
    rest_.start();
  });
  connect(&document, &Document::currentLayerChanged, this, &TimeTaken::changed);
}

TimeTaken::~TimeTaken() { stop(); }

void TimeTaken::setOn(bool on) {
  if (on == on_) return;
  on_ = on;
  stop();
  found_.reset();
  problem_.clear();
  if (on) measure();
  Q_EMIT changed();
}

void TimeTaken::stop() {
  rest_.stop();
  if (cancel_) *cancel_ = true;
  cancel_.reset();
}

void TimeTaken::measure() {
  stop();
  Scene scene = document_.scene();
  const double share = std::min(1.0, static_cast<double>(kLongest) / std::max({1, scene.width, scene.height}));
  const QSize size(std::max(1, static_cast<int>(scene.width * share)), std::max(1, static_cast<int>(scene.height * share)));
  cancel_ = std::make_shared<std::atomic<bool>>(false);
  inBackground(
      this,
      [scene = std::move(scene), size, cancel = cancel_] {
        return std::pair{cancel, profiled(scene, size.width(), size.height(), 0, kFrames, cancel.get())};
      },
      [this, size](std::pair<std::shared_ptr<std::atomic<bool>>, Result<Profile>> made) {
        // Another one is under way, or nobody wants to know any more.
        if (made.first != cancel_) return;
        cancel_.reset();
        size_ = size;
        found_.reset();
        problem_.clear();
        if (made.second)
          found_ = std::move(*made.second);
        else
          problem_ = QString::fromStdString(made.second.error().sentence());
        Q_EMIT changed();
      });
}

QString TimeTaken::sentence() const {
  const Layer* layer = document_.layer();
  if (!layer) return tr("Choose a layer to see what it takes.");
  if (!problem_.isEmpty()) return problem_;
  if (!found_) return tr("Measuring…");
  const auto& all = found_->layers;
  const auto own = std::find_if(all.begin(), all.end(), [&](const Profile::OfLayer& l) { return l.layer == layer->id; });
  if (own == all.end()) return tr("Measuring…");
  // A group takes what all that it holds takes; parts of a picture are worked on by several processors at once.
  const double perWork = found_->work > 0 ? found_->frame / found_->work : 0;
  double taken = own->milliseconds;
  for (auto held = own + 1; held != all.end() && held->depth > own->depth; ++held) taken += held->milliseconds;
  const auto milliseconds = [](double v) { return QString::fromStdString(numberText(v, v < 9.95 ? 1 : 0)); };
  if (taken * perWork < 0.05)
    return layer->visible ? tr("This layer takes no time: it rests, or nothing of it is seen.")
                          : tr("This layer takes no time: it is hidden.");
  QString said = tr("This layer takes %1 of %2 ms a picture, %3 × %4")
                     .arg(milliseconds(taken * perWork), milliseconds(found_->frame))
                     .arg(size_.width())
                     .arg(size_.height());
  std::vector<Profile::Step> steps = own->steps;
  std::stable_sort(steps.begin(), steps.end(), [](const auto& a, const auto& b) { return a.milliseconds > b.milliseconds; });
  QStringList parts;
  for (const Profile::Step& step : steps)
    if (parts.size() < 4 && steps.size() > 1 && step.milliseconds * perWork >= 0.05)
      parts += QStringLiteral("%1 %2").arg(titleOf(step.step), milliseconds(step.milliseconds * perWork));
  if (!parts.isEmpty()) said += QStringLiteral(": ") + parts.join(QStringLiteral(", "));
  return said + QStringLiteral(".");
}

}  // namespace oa::app
