#include "widgets/clip_joint_row.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QStyle>
#include <algorithm>
#include <deque>

#include "edit/clips.h"
#include "model/background.h"
#include "store/media_store.h"
#include "widgets/number_field.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

const ParamSpec kLength{.id = "length",
                        .label = "Length",
                        .help = "How long it may last, in seconds.",
                        .base = 1.0,
                        .min = 0.1,
                        .max = kMostMediaSeconds,
                        .sliderMin = 0.1,
                        .sliderMax = 30,
                        .unit = Unit::Seconds};

using Sketch = Result<std::shared_ptr<const ClipSketch>>;

// Those looked through last, by the hash of their file; only on the window's thread. One may take a hundred megabytes.
using Known = std::pair<std::string, std::shared_ptr<const ClipSketch>>;
std::deque<Known>& sketches() {
  static std::deque<Known> known;
  return known;
}

std::shared_ptr<const ClipSketch> knownSketch(const std::string& hash) {
  const auto found = std::find_if(sketches().begin(), sketches().end(), [&](const Known& known) { return known.first == hash; });
  return found == sketches().end() ? nullptr : found->second;
}

void remember(const std::string& hash, const std::shared_ptr<const ClipSketch>& sketch) {
  constexpr std::size_t kMost = 4;
  sketches().emplace_front(hash, sketch);
  if (sketches().size() > kMost) sketches().pop_back();
}

const MediaRef& fileOf(const RecipeStep& step) {
  return std::get<MediaRef>(step.params[static_cast<std::size_t>(findParam(step.spec->params, "file"))].base);
}

bool samePlay(const ClipPlay& a, const ClipPlay& b) {
  return a.from == b.from && a.to == b.to && a.back == b.back && a.overlap == b.overlap;
}

}  // namespace

bool ClipJointRow::fits(const RecipeStep& step) {
  if (!step.spec->footage || !fileOf(step).moving()) return false;
  const auto& way = step.params[static_cast<std::size_t>(findParam(step.spec->params, "way"))].base;
  return std::get<std::string>(way) == "round";
}

ClipJointRow::ClipJointRow(Document& document, Id layer, int at, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), at_(at), given_up_(std::make_shared<std::atomic<bool>>(false)) {
  setObjectName(QStringLiteral("clipJoint"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 4, 0, 2);
  column->setSpacing(6);
  state_ = new QLabel(this);
  state_->setObjectName(QStringLiteral("muted"));
  state_->setWordWrap(true);
  state_->setAccessibleName(tr("Joint of the clip"));
  column->addWidget(state_);
  wish_ = new QWidget(this);
  auto* row = new QHBoxLayout(wish_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  mend_ = new QPushButton(tr("Make it seamless"), wish_);
  mend_->setObjectName(QStringLiteral("mendClip"));
  mend_->setToolTip(tr("Look for the two places in the clip that are most alike, and let it go from one to the other"));
  row->addWidget(mend_);
  row->addStretch(1);
  const auto number = [&](const QString& name, const QString& accessible) {
    auto* field = new NumberField(kLength, wish_);
    field->setFixedWidth(50);
    field->setObjectName(name);
    field->setAccessibleName(accessible);
    field->setToolTip(accessible);
    connect(field, &NumberField::moved, field, [field](double v) { field->setValue(v); });
    row->addWidget(field);
    return field;
  };
  least_ = number(QStringLiteral("leastSeconds"), tr("At least so many seconds"));
  auto* dash = new QLabel(tr("to"), wish_);
  dash->setObjectName(QStringLiteral("muted"));
  row->addWidget(dash);
  most_ = number(QStringLiteral("mostSeconds"), tr("At most so many seconds"));
  column->addWidget(wish_);
  auto* busy = new QHBoxLayout;
  progress_ = new QProgressBar(this);
  progress_->setTextVisible(false);
  progress_->setFixedHeight(6);
  progress_->setAccessibleName(tr("Looking through the clip"));
  stop_ = new QPushButton(tr("Stop"), this);
  busy->addWidget(progress_, 1);
  busy->addWidget(stop_);
  column->addLayout(busy);
  progress_->hide();
  stop_->hide();
  connect(mend_, &QPushButton::clicked, this, &ClipJointRow::mend);
  connect(stop_, &QPushButton::clicked, this, [this] { *given_up_ = true; });
  connect(&document, &Document::changed, this, &ClipJointRow::refresh);
  soon_.setSingleShot(true);
  soon_.setInterval(250);
  connect(&soon_, &QTimer::timeout, this, &ClipJointRow::measure);
  watch_.setInterval(60);
  connect(&watch_, &QTimer::timeout, this, [this] {
    if (share_) progress_->setValue(*share_);
  });
  refresh();
}

ClipJointRow::~ClipJointRow() { *given_up_ = true; }

const RecipeStep* ClipJointRow::step() const {
  const RecipeStep* step = document_.step(layer_, at_);
  return step && fits(*step) ? step : nullptr;
}

void ClipJointRow::refresh() {
  const RecipeStep* now = step();
  setVisible(now != nullptr);
  if (!now) return;
  const ClipPlay play = clipPlayOf(*now);
  if (clip_ == fileOf(*now).hash && samePlay(play, measured_)) return;
  if (clip_ != fileOf(*now).hash) {
    before_.clear();
    const double lasts = playSeconds(fileOf(*now).seconds, play);
    most_->setValue(std::round(lasts * 100) / 100);
    least_->setValue(std::max(0.1, std::round(lasts * 50) / 100));
  }
  clip_ = fileOf(*now).hash;
  measured_ = play;
  soon_.start();
}

void ClipJointRow::say(const QString& words, bool bad) {
  state_->setText(words);
  state_->setProperty("problem", bad);
  state_->style()->unpolish(state_);
  state_->style()->polish(state_);
}

void ClipJointRow::withSketch(std::function<void(const std::shared_ptr<const ClipSketch>&)> then) {
  const RecipeStep* now = step();
  if (!now) return;
  const MediaRef file = fileOf(*now);
  if (const auto known = knownSketch(file.hash)) return then(known);
  progress_->setRange(0, 1000);
  progress_->setValue(0);
  progress_->show();
  stop_->show();
  wish_->setEnabled(false);
  *given_up_ = false;
  share_ = std::make_shared<std::atomic<int>>(0);
  watch_.start();
  inBackground(
      this,
      [file, stop = given_up_, share = share_]() -> Sketch {
        const auto clip = MediaStore::shared().clip(file);
        if (!clip) return fail(clip.error().message);
        auto made = ClipSketch::make(**clip, 0, 0, [&](double done) {
          *share = static_cast<int>(done * 1000);
          return !*stop;
        });
        if (!made) return fail(made.error().message);
        return std::make_shared<const ClipSketch>(std::move(*made));
      },
      [this, file, then = std::move(then)](const Sketch& made) {
        watch_.stop();
        progress_->hide();
        stop_->hide();
        wish_->setEnabled(true);
        if (!made) return say(tr("%1 %2.").arg(text(mediaName(file)), text(made.error().message)), true);
        remember(file.hash, *made);
        then(*made);
      });
}

void ClipJointRow::measure() {
  // A long one is only looked through when it is asked for.
  constexpr int kQuickly = 900;
  const RecipeStep* shown = step();
  if (!shown) return;
  if (fileOf(*shown).pictures > kQuickly && !knownSketch(fileOf(*shown).hash)) return say(tr("Its joint was not looked at yet."), false);
  withSketch([this](const std::shared_ptr<const ClipSketch>& sketch) {
    const RecipeStep* now = step();
    if (!now) return;
    const ClipPlay play = clipPlayOf(*now);
    inBackground(
        this, [sketch, play] { return sketch->jointOf(play); },
        [this, play](const JointReport& report) {
          const RecipeStep* still = step();
          if (!still || !samePlay(clipPlayOf(*still), play)) return;
          const QString seen =
              report.median > 0 ? tr("%1 times a usual step").arg(report.ratio(), 0, 'f', 1) : tr("%1 levels").arg(report.joint, 0, 'f', 1);
          const QString words =
              report.clean ? tr("Its end meets its beginning: %1").arg(seen) : tr("Its end jumps to its beginning: %1").arg(seen);
          say(before_.isEmpty() || before_ == seen ? words : tr("%1 (before: %2)").arg(words, before_), !report.clean);
          setProperty("ratio", report.ratio());
          setProperty("seen", seen);
          mend_->setEnabled(true);
        });
  });
}

void ClipJointRow::mend() {
  const double least = std::min(least_->value(), most_->value());
  const double most = std::max(least_->value(), most_->value());
  before_ = property("seen").toString();
  withSketch([this, least, most](const std::shared_ptr<const ClipSketch>& sketch) {
    const RecipeStep* now = step();
    if (!now) return;
    const ClipPlay play = clipPlayOf(*now);
    mend_->setEnabled(false);
    say(tr("Looking for the best joint…"), false);
    inBackground(
        this, [sketch, play, least, most] { return sketch->best(play, least, most); },
        [this, play](const ClipPlay& found) {
          mend_->setEnabled(true);
          const RecipeStep* still = step();
          if (!still || !samePlay(clipPlayOf(*still), play)) return;
          if (samePlay(found, play)) {
            measure();
            return say(tr("No better joint was found in these lengths."), true);
          }
          document_.edit(tr("make the clip seamless"), {}, [&](Scene& scene) { edit::setClipPlay(scene, layer_, at_, found); });
        });
  });
}

}  // namespace oa::app
