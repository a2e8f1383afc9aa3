#include "sheets/spread_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>
#include <numbers>

#include "edit/timing.h"
#include "widgets/spread_controls.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

// The loop as a ring, with a bead for each layer where it begins.
class DelayRing : public QWidget {
 public:
  explicit DelayRing(QWidget* parent) : QWidget(parent) {
    setFixedHeight(190);
    setAccessibleName(tr("When each begins"));
  }
  void setDelays(std::vector<double> delays) {
    delays_ = std::move(delays);
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QPointF c(width() / 2.0, height() / 2.0);
    const double r = std::min(width(), height()) / 2.0 - 24;
    p.setPen(QPen(t.line, 3));
    p.drawEllipse(c, r, r);
    p.setPen(Qt::NoPen);
    p.setBrush(t.persimmon);
    const QPointF joint(c.x(), c.y() - r - 15);
    p.drawPolygon(QPolygonF({joint + QPointF(0, 6), joint + QPointF(-5, -3), joint + QPointF(5, -3)}));
    const std::size_t n = delays_.size();
    p.setFont(uiFont(10, 600));
    // Beads that lie on one another stand outside each other.
    std::vector<std::pair<double, int>> taken;
    for (std::size_t i = 0; i < n; ++i) {
      const double share = fract(delays_[i]);
      int level = 0;
      for (const auto& [at, used] : taken)
        if (std::abs(at - share) < 0.02 || std::abs(at - share) > 0.98) level = std::max(level, used + 1);
      taken.emplace_back(share, level);
      const double a = 2 * std::numbers::pi * share;
      const double far = r - 17.0 * level;
      if (far < 12) continue;
      const QPointF at(c.x() + far * std::sin(a), c.y() - far * std::cos(a));
      p.setPen(QPen(t.lagoon, 1.6));
      p.setBrush(i == 0 ? t.lagoon : t.card);
      p.drawEllipse(at, 8, 8);
      p.setPen(i == 0 ? t.paper : t.ink);
      p.drawText(QRectF(at.x() - 10, at.y() - 8, 20, 16), Qt::AlignCenter, QString::number(i + 1));
    }
  }

 private:
  std::vector<double> delays_;
};

SpreadSheet::SpreadSheet(Document& document, DrawnLine& line, QWidget* parent)
    : Sheet(tr("Spread in time"), "spread", parent), document_(document), line_(line) {
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("muted"));
  addNote(says_);
  controls_ = new SpreadControls(true, this);
  content()->addWidget(controls_);
  ring_ = new DelayRing(this);
  content()->addWidget(ring_);
  use_ = addPrimary(tr("Spread them"));
  connect(use_, &QPushButton::clicked, this, [this] {
    apply();
    document_.endGesture();
  });
  // Once they are spread, what is changed shows at once.
  connect(controls_, &SpreadControls::moved, this, [this] {
    if (!spread_.empty() && spread_ == document_.selection()) apply();
  });
  connect(controls_, &SpreadControls::lineWanted, &line, &DrawnLine::ask);
  connect(controls_, &SpreadControls::lineDone, &line, &DrawnLine::clear);
  // Who draws a line for them wants them spread.
  connect(&line, &DrawnLine::drawn, this, [this] {
    spread_ = document_.selection();
    controls_->setLine(line_.points());
  });
  connect(&line, &DrawnLine::changed, this, [this] {
    if (!line_.wanted() && line_.points().empty()) controls_->setLine({});
  });
  connect(controls_, &SpreadControls::released, &document, &Document::endGesture);
  connect(&document, &Document::changed, this, [this](bool) { refresh(); });
  connect(&document, &Document::currentLayerChanged, this, &SpreadSheet::refresh);
}

edit::Parts SpreadSheet::parts() const {
  const Ids layers = document_.selection();
  const Layer* layer = layers.size() == 1 ? document_.layer() : nullptr;
  return layer ? edit::partsOf(*layer) : edit::Parts::None;
}

void SpreadSheet::apply() {
  const Ids layers = document_.selection();
  const bool within = parts() != edit::Parts::None;
  const auto spread = [&](Scene& scene) {
    return within ? edit::spreadParts(scene, layers.front(), controls_->spread()) : edit::spreadLayers(scene, layers, controls_->spread());
  };
  if (document_.perform(tr("spread in time"), spread, QStringLiteral("spread"))) spread_ = layers;
}

void SpreadSheet::refresh() {
  if (!isVisible()) return;
  const Ids layers = edit::outermost(document_.scene(), document_.selection());
  std::vector<double> delays = edit::delaysOf(document_.plan(), layers);
  const auto count = static_cast<int>(delays.size());
  const edit::Parts within = parts();
  use_->setEnabled(count > 1 || within != edit::Parts::None);
  if (within != edit::Parts::None) {
    const bool letters = within == edit::Parts::Letters;
    const QString what =
        letters ? tr("The letters of %1").arg(text(document_.layer()->name)) : tr("The copies of %1").arg(text(document_.layer()->name));
    says_->setText(edit::partsMove(*document_.layer())
                       ? tr("%1: each does what it does later than the one before. Their card has it under %2.")
                             .arg(what, letters ? tr("Letter by letter") : tr("Head starts"))
                       : tr("%1 do nothing yet: set one of their values moving, then their head starts are seen.").arg(what));
  } else if (layers.size() < 2)
    says_->setText(
        tr("Select two layers or more, copies of each other say, or one of repeated shapes or of words: each then does what it does a "
           "little later."));
  else if (count < 2)
    says_->setText(tr("Nothing moves in these layers, or in one of them alone: set them moving first."));
  else
    says_->setText(
        tr("%1 layers that move: each does what it does later than the one before. A bead stands where each begins.").arg(count));
  ring_->setVisible(count > 1 && within == edit::Parts::None);
  ring_->setDelays(std::move(delays));
}

}  // namespace oa::app
