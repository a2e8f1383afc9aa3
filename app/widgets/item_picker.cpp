#include "widgets/item_picker.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "edit/items.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

std::optional<Colour> itemColour(const ItemsSpec& spec, const Item& item) {
  for (std::size_t i = 0; i < item.params.size(); ++i)
    if (spec.params[i].type == ParamType::Colour) return std::get<Colour>(item.params[i].base);
  return {};
}

ItemPicker::ItemPicker(Document& document, Id layer, int step, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), step_(step), spec_(document.step(layer, step)->spec) {
  setObjectName(QStringLiteral("items"));
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setToolTip(tr("Choose one to change it; drag it, or press Alt with Left or Right, to change the order"));
  setAccessibleName(text(spec_->items->single) + tr(" list"));
  QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  policy.setHeightForWidth(true);
  setSizePolicy(policy);
  connect(&document, &Document::changed, this, [this] {
    updateGeometry();
    update();
  });
}

const RecipeStep* ItemPicker::shownStep() const {
  const RecipeStep* step = document_.step(layer_, step_);
  return step && step->spec == spec_ ? step : nullptr;
}

int ItemPicker::count() const {
  const RecipeStep* step = shownStep();
  return step ? static_cast<int>(step->items.size()) : 0;
}

// Many stand closer, so that some hundreds can still be seen.
double ItemPicker::pitch(int width) const { return std::clamp(std::sqrt(width * 90.0 / std::max(1, count())), 9.0, 27.0); }

int ItemPicker::heightForWidth(int width) const {
  const double each = pitch(width);
  const int columns = std::max(1, static_cast<int>((width - 2) / each));
  const int rows = (count() + columns - 1) / columns;
  return static_cast<int>(std::ceil(rows * each)) + 4;
}

QSize ItemPicker::sizeHint() const { return {240, heightForWidth(240)}; }

QRectF ItemPicker::dotRect(int index) const {
  const double each = pitch(width());
  const int columns = std::max(1, static_cast<int>((width() - 2) / each));
  const double side = each - (each > 16 ? 7 : 2);
  const int row = index / columns;
  return {2 + index % columns * each + (each - side) / 2, 2 + row * each + (each - side) / 2, side, side};
}

int ItemPicker::indexAt(QPointF place) const {
  const double gap = (pitch(width()) - dotRect(0).width()) / 2;
  for (int i = 0; i < count(); ++i)
    if (dotRect(i).adjusted(-gap, -gap, gap, gap).contains(place)) return i;
  return -1;
}

void ItemPicker::setItem(Id item) {
  if (item == item_) return;
  item_ = item;
  update();
  Q_EMIT chosen(item);
}

void ItemPicker::reorder(int from, int to) {
  document_.performOnItems(
      tr("change the order"), layer_, step_, [&](RecipeStep& step) { return edit::moveItem(step, from, to); },
      QStringLiteral("order/%1/%2").arg(layer_).arg(step_));
}

void ItemPicker::paintEvent(QPaintEvent*) {
  const RecipeStep* step = shownStep();
  if (!step) return;
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  for (int i = 0; i < count(); ++i) {
    const Item& item = step->items[static_cast<std::size_t>(i)];
    const QRectF dot = dotRect(i);
    const Colour c = itemColour(*spec_->items, item).value_or(Colour{0.5f, 0.5f, 0.5f, 1});
    p.setPen(QPen(t.line, 1));
    p.setBrush(QColor::fromRgbF(c.r, c.g, c.b));
    p.drawEllipse(dot);
    if (item_ != ParamAddress::kAllItems && item.id != item_) continue;
    p.setPen(QPen(hasFocus() ? t.lagoon : t.persimmon, 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(dot.adjusted(-2.5, -2.5, 2.5, 2.5));
  }
}

void ItemPicker::mousePressEvent(QMouseEvent* event) {
  const int index = event->button() == Qt::LeftButton ? indexAt(event->position()) : -1;
  if (index < 0) return;
  dragged_ = shownStep()->items[static_cast<std::size_t>(index)].id;
  setItem(dragged_);
}

void ItemPicker::mouseMoveEvent(QMouseEvent* event) {
  const RecipeStep* step = shownStep();
  const int from = step ? edit::itemIndex(*step, dragged_) : -1;
  const int to = indexAt(event->position());
  if (from >= 0 && to >= 0 && from != to) reorder(from, to);
}

void ItemPicker::mouseReleaseEvent(QMouseEvent*) {
  dragged_ = 0;
  document_.endGesture();
}

void ItemPicker::keyPressEvent(QKeyEvent* event) {
  const RecipeStep* step = shownStep();
  const bool left = event->key() == Qt::Key_Left;
  if (!step || (!left && event->key() != Qt::Key_Right)) return QWidget::keyPressEvent(event);
  const int at = edit::itemIndex(*step, item_);
  if (event->modifiers() & Qt::AltModifier) {
    if (at >= 0) reorder(at, at + (left ? -1 : 1));
    return document_.endGesture();
  }
  setItem(step->items[static_cast<std::size_t>(std::clamp(at + (left ? -1 : 1), 0, count() - 1))].id);
}

}  // namespace oa::app
