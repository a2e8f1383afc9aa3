#include "widgets/seam_row.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStyle>

#include "base/files.h"
#include "media/png.h"
#include "model/background.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

// Like any other place up to here.
constexpr double kUnseen = 2;

QString joints(const SeamReport::Joints& joints, const SeamSettings& which) {
  const auto one = [](double joint) { return QString::number(joint, 'f', 1); };
  if (!which.down) return one(joints.across);
  if (!which.across) return one(joints.down);
  return SeamRow::tr("%1 across and %2 down").arg(one(joints.across), one(joints.down));
}

}  // namespace

SeamRow::SeamRow(Document& document, Id layer, int at, QWidget* parent) : QWidget(parent), document_(document), layer_(layer), at_(at) {
  setObjectName(QStringLiteral("seamRow"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 4, 0, 2);
  row->setSpacing(8);
  state_ = new QLabel(this);
  state_->setObjectName(QStringLiteral("muted"));
  state_->setWordWrap(true);
  state_->setAccessibleName(tr("Joint of the picture"));
  state_->setToolTip(tr("The step where its ends meet, against a usual step from pixel to pixel: 1 is like any other place"));
  row->addWidget(state_, 1);
  save_ = new QPushButton(tr("Save as a picture…"), this);
  save_->setObjectName(QStringLiteral("saveSeamless"));
  save_->setToolTip(tr("Write the picture whose ends meet to a PNG file, in 16 bits and with its transparency"));
  row->addWidget(save_, 0, Qt::AlignTop);
  connect(save_, &QPushButton::clicked, this, &SeamRow::save);
  connect(&document, &Document::changed, this, &SeamRow::refresh);
  soon_.setSingleShot(true);
  soon_.setInterval(300);
  connect(&soon_, &QTimer::timeout, this, &SeamRow::measure);
  refresh();
}

const RecipeStep* SeamRow::step() const {
  const RecipeStep* step = document_.step(layer_, at_);
  return step && makesEndsMeet(*step) ? step : nullptr;
}

void SeamRow::refresh() {
  setVisible(step() != nullptr);
  if (!step()) return;
  const Layer* layer = findLayer(document_.scene(), layer_);
  if (layer->recipe == measured_) return;
  measured_ = layer->recipe;
  saved_ = false;
  soon_.start();
}

void SeamRow::say(const QString& words, bool bad) {
  state_->setText(words);
  state_->setProperty("problem", bad);
  state_->style()->unpolish(state_);
  state_->style()->polish(state_);
}

void SeamRow::measure() {
  if (!step()) return;
  // One at a time; what changed meanwhile is looked at next.
  if (measuring_) return soon_.start();
  measuring_ = true;
  if (state_->text().isEmpty()) say(tr("Looking at its joint…"), false);
  inBackground(
      this, [scene = document_.scene(), layer = layer_, at = static_cast<std::size_t>(at_)] { return measureSeam(scene, layer, at, 0); },
      [this](const Result<SeamReport>& report) {
        measuring_ = false;
        const RecipeStep* now = step();
        if (!now || (saved_ && report)) return;
        if (!report) return say(text(report.error().sentence()), true);
        const SeamSettings which = *now->spec->ends(now->params);
        const double worst = std::max(which.across ? report->after.across : 0, which.down ? report->after.down : 0);
        const QString before = joints(report->before, which);
        const QString after = joints(report->after, which);
        say(worst <= kUnseen ? tr("Ends meet: %1 (before: %2)").arg(after, before)
                             : tr("The joint shows: %1 (before: %2)").arg(after, before),
            worst > kUnseen);
        setProperty("after", worst);
      });
}

void SeamRow::save() {
  const Layer* layer = findLayer(document_.scene(), layer_);
  if (!step() || !layer) return;
  const QString folder = QFileInfo(document_.path()).path();
  QString path = QFileDialog::getSaveFileName(window(), tr("Save as a picture"),
                                              folder + QLatin1Char('/') + text(layer->name) + tr(" seamless") + QStringLiteral(".png"),
                                              tr("PNG pictures (*.png)"));
  if (path.isEmpty()) return;
  if (QFileInfo(path).suffix().isEmpty()) path += QStringLiteral(".png");
  save_->setEnabled(false);
  inBackground(
      this,
      [scene = document_.scene(), layer = layer_, at = static_cast<std::size_t>(at_), to = path.toStdString()]() -> Status {
        const auto made = seamlessPicture(scene, layer, at, 0);
        if (!made) return tl::unexpected(made.error());
        const auto png = encodePng(*made, true);
        if (!png) return tl::unexpected(png.error());
        return writeFileAtomically(to, *png);
      },
      [this, path](const Status& done) {
        save_->setEnabled(true);
        saved_ = true;
        say(done ? tr("Saved as %1.").arg(QFileInfo(path).fileName()) : text(done.error().sentence()), !done);
      });
}

}  // namespace oa::app
