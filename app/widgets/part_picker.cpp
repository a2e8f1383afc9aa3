#include "widgets/part_picker.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "widgets/theme.h"

namespace oa::app {

std::optional<Colour> partColour(const RecipeStep& step, int part) {
  for (std::size_t i = 0; i < step.params.size(); ++i)
    if (part > 0 && step.spec->params[i].part == part && step.spec->params[i].type == ParamType::Colour)
      return std::get<Colour>(step.params[i].base);
  return {};
}

PartPicker::PartPicker(Document& document, Id layer, int step, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), step_(step) {
  spec_ = document.layer(layer)->recipe[static_cast<std::size_t>(step)].spec;
  setObjectName(QStringLiteral("parts"));
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(30);
  setCursor(Qt::PointingHandCursor);
  setToolTip(tr("Choose a point to change it; in the picture it can be dragged"));
  setAccessibleName(tr("Points"));
  connect(&document, &Document::changed, this, qOverload<>(&QWidget::update));
}

// The step this was made for, or null once another one stands in its place.
const RecipeStep* PartPicker::shownStep() const {
  const Layer* layer = document_.layer(layer_);
  if (!layer) return nullptr;
  const auto& recipe = layer->recipe;
  if (step_ >= static_cast<int>(recipe.size()) || recipe[static_cast<std::size_t>(step_)].spec != spec_) return nullptr;
  return &recipe[static_cast<std::size_t>(step_)];
}

int PartPicker::count() const {
  const RecipeStep* step = shownStep();
  int most = 0;
  for (std::size_t i = 0; step && i < step->params.size(); ++i)
    if (isShown(step->spec->params, step->params, i)) most = std::max(most, step->spec->params[i].part);
  return most;
}

void PartPicker::setPart(int part) {
  part = std::clamp(part, 1, std::max(1, count()));
  if (part == part_) return;
  part_ = part;
  update();
  Q_EMIT chosen(part);
}

QRectF PartPicker::dotRect(int part) const {
  const double pitch = std::min(28.0, (width() - 4.0) / std::max(1, count()));
  const double side = std::min(20.0, pitch - 2);
  return {2 + (part - 1) * pitch + (pitch - side) / 2, (height() - side) / 2, side, side};
}

void PartPicker::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const int parts = count();
  if (parts == 0) return;
  const RecipeStep& step = *shownStep();
  for (int i = 1; i <= parts; ++i) {
    const QRectF dot = dotRect(i);
    const Colour c = partColour(step, i).value_or(Colour{0.5f, 0.5f, 0.5f, 1});
    p.setPen(QPen(t.line, 1));
    p.setBrush(QColor::fromRgbF(c.r, c.g, c.b));
    p.drawEllipse(dot.adjusted(2, 2, -2, -2));
    if (i != part_) continue;
    p.setPen(QPen(hasFocus() ? t.lagoon : t.persimmon, 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(dot);
  }
}

void PartPicker::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  for (int i = 1; i <= count(); ++i)
    if (dotRect(i).adjusted(-3, -6, 3, 6).contains(event->position())) return setPart(i);
}

void PartPicker::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right)
    setPart(part_ + (event->key() == Qt::Key_Left ? -1 : 1));
  else
    QWidget::keyPressEvent(event);
}

}  // namespace oa::app
