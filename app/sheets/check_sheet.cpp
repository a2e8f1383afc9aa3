#include "sheets/check_sheet.h"

#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

// A bar of the step across the joint against the usual step, with a mark at the limit.
class JointBar : public QWidget {
 public:
  JointBar(QString name, const JointReport& report, QWidget* parent) : QWidget(parent), name_(std::move(name)), report_(report) {
    setFixedHeight(52);
    setAccessibleName(name_);
    setAccessibleDescription(verdict());
    setToolTip(tr("Step across the joint %1 levels, usual step %2 levels").arg(report.joint, 0, 'f', 3).arg(report.median, 0, 'f', 3));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(t.ink);
    p.setFont(uiFont(12, 600));
    p.drawText(QRectF(0, 2, width() - 120, 18), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(name_, Qt::ElideRight, width() - 130));
    const QColor colour = report_.clean ? (report_.steady ? t.moss : t.ochre) : t.persimmon;
    p.setPen(colour);
    p.setFont(uiFont(12, 500));
    p.drawText(QRectF(width() - 170, 2, 170, 18), Qt::AlignRight | Qt::AlignVCenter, verdict());
    const QRectF track(0, 26, width(), 8);
    p.setPen(Qt::NoPen);
    p.setBrush(t.line);
    p.drawRoundedRect(track, 4, 4);
    const double share = std::clamp(report_.ratio() / 3, 0.0, 1.0);
    p.setBrush(colour);
    if (share > 0) p.drawRoundedRect(QRectF(track.left(), track.top(), std::max(8.0, track.width() * share), 8), 4, 4);
    const double limit = track.left() + track.width() * kJointLimit / 3;
    p.setPen(QPen(t.ink, 1.5));
    p.drawLine(QPointF(limit, 23), QPointF(limit, 37));
    p.setPen(t.muted);
    p.setFont(uiFont(10));
    p.drawText(QRectF(limit - 60, 37, 120, 14), Qt::AlignCenter, tr("limit 1.5 ×"));
  }

 private:
  [[nodiscard]] QString verdict() const {
    if (report_.median <= 0) return tr("at rest");
    const QString ratio = tr("%1 × the usual step").arg(report_.ratio(), 0, 'f', 2);
    return report_.clean ? ratio : tr("jumps: ") + ratio;
  }
  QString name_;
  JointReport report_;
};

}  // namespace

CheckSheet::CheckSheet(Document& document, QWidget* parent) : Sheet(tr("Check"), "check", parent), document_(document) {
  sentence_ = new QLabel(this);
  addNote(sentence_);
  auto* what = new QLabel(tr("How far the picture moves from the last frame to the first, against all its other steps:"), this);
  what->setObjectName(QStringLiteral("muted"));
  addNote(what);
  rows_ = new QVBoxLayout();
  rows_->setSpacing(10);
  content()->addLayout(rows_);
  content()->addStretch(1);
  // What is shown here must be true of the scene as it is now: measured again once changes pause.
  again_.setSingleShot(true);
  again_.setInterval(400);
  connect(&again_, &QTimer::timeout, this, &CheckSheet::start);
  connect(&document, &Document::changed, this, [this] {
    if (isVisible()) again_.start();
  });
  connect(this, &CheckSheet::measured, this, qOverload<const JointCheck&>(&CheckSheet::show), Qt::QueuedConnection);
}

CheckSheet::~CheckSheet() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

void CheckSheet::stop() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

void CheckSheet::hideEvent(QHideEvent*) {
  again_.stop();
  stop();
}

void CheckSheet::start() {
  stop();
  stop_ = false;
  sentence_->setText(tr("Measuring…"));
  thread_ = std::thread([this, scene = document_.scene()] {
    const JointCheck check = checkJoint(scene, true, &stop_);
    if (!stop_) Q_EMIT measured(check);
  });
}

void CheckSheet::show(const JointCheck& check) {
  while (QLayoutItem* item = rows_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  sentence_->setText(text(check.sentence()));
  rows_->addWidget(new JointBar(tr("Whole scene"), check.scene, this));
  for (auto layer = check.layers.rbegin(); layer != check.layers.rend(); ++layer)
    rows_->addWidget(new JointBar(text(layer->layer), layer->report, this));
}

}  // namespace oa::app
