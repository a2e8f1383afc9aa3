#include "widgets/layer_tree.h"

#include <QDrag>
#include <QDragMoveEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "widgets/theme.h"

namespace oa::app {
namespace {

const QString kMime = QStringLiteral("application/x-over-again-rows");

}  // namespace

LayerTree::LayerTree(QWidget* parent) : QTreeWidget(parent) {
  setHeaderHidden(true);
  setColumnCount(1);
  setRootIsDecorated(false);
  setIndentation(14);
  setExpandsOnDoubleClick(false);
  setSelectionMode(QAbstractItemView::ExtendedSelection);
  setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
  setDragEnabled(true);
  setAcceptDrops(true);
  setDropIndicatorShown(false);
  setMouseTracking(true);
  setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setAllColumnsShowFocus(true);
  setUniformRowHeights(true);
  setAutoExpandDelay(600);
}

Id LayerTree::idOf(const QTreeWidgetItem* item) { return item ? item->data(0, Qt::UserRole).toInt() : 0; }

QTreeWidgetItem* LayerTree::itemOf(Id id) const {
  for (QTreeWidgetItemIterator it(const_cast<LayerTree*>(this)); *it; ++it)
    if (idOf(*it) == id) return *it;
  return nullptr;
}

edit::Ids LayerTree::selectedIds() const {
  edit::Ids ids;
  for (const QTreeWidgetItem* item : selectedItems()) ids.push_back(idOf(item));
  // The one that has the focus is the one whose recipe is shown.
  if (const auto current = std::find(ids.begin(), ids.end(), idOf(currentItem())); current != ids.end())
    std::rotate(current, current + 1, ids.end());
  return ids;
}

LayerTree::Target LayerTree::targetAt(const QPoint& at) const {
  Target target;
  target.valid = true;
  QTreeWidgetItem* item = itemAt(at);
  if (!item) {
    // Below all rows: at the bottom of the scene.
    target.place = 0;
    QTreeWidgetItem* last = topLevelItem(topLevelItemCount() - 1);
    while (last && last->isExpanded() && last->childCount() > 0) last = last->child(last->childCount() - 1);
    if (last) target.mark = QRect(4, visualItemRect(last).bottom(), viewport()->width() - 8, 0);
    return target;
  }
  const QRect row = visualItemRect(item);
  const bool group = item->data(0, Qt::UserRole + 1).toBool();
  QTreeWidgetItem* parent = item->parent();
  const int count = parent ? parent->childCount() : topLevelItemCount();
  const int index = parent ? parent->indexOfChild(item) : indexOfTopLevelItem(item);
  const double share = static_cast<double>(at.y() - row.top()) / std::max(1, row.height());
  if (group && share > 0.3 && (share < 0.7 || (item->isExpanded() && item->childCount() > 0))) {
    // Into it, on top of what it holds.
    target.group = idOf(item);
    target.place = item->childCount();
    target.mark = row;
    target.into = true;
    return target;
  }
  const bool above = share < 0.5;
  target.group = idOf(parent);
  // Rows are counted from the top, layers from the bottom.
  target.place = count - index - (above ? 0 : 1);
  target.mark = QRect(row.left(), above ? row.top() : row.bottom(), row.width(), 0);
  return target;
}

QMimeData* LayerTree::mimeData(const QList<QTreeWidgetItem*>&) const {
  QByteArray ids;
  for (const Id id : selectedIds()) ids += QByteArray::number(id) + ' ';
  auto* mime = new QMimeData();
  mime->setData(kMime, ids);
  return mime;
}

void LayerTree::startDrag(Qt::DropActions) {
  if (selectedItems().isEmpty()) return;
  auto* drag = new QDrag(this);
  drag->setMimeData(mimeData(selectedItems()));
  if (QTreeWidgetItem* item = currentItem()) {
    const QRect row = visualItemRect(item);
    drag->setPixmap(viewport()->grab(row));
    drag->setHotSpot(viewport()->mapFromGlobal(QCursor::pos()) - row.topLeft());
  }
  drag->exec(Qt::MoveAction);
  held_ = false;
  target_ = {};
  viewport()->update();
  Q_EMIT released();
}

void LayerTree::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasFormat(kMime))
    event->acceptProposedAction();
  else
    event->ignore();
}

void LayerTree::dragMoveEvent(QDragMoveEvent* event) {
  QTreeWidget::dragMoveEvent(event);  // scrolls at the edges, and opens groups
  if (!event->mimeData()->hasFormat(kMime)) return event->ignore();
  target_ = targetAt(event->position().toPoint());
  viewport()->update();
  event->setDropAction(Qt::MoveAction);
  event->accept();
}

void LayerTree::dragLeaveEvent(QDragLeaveEvent* event) {
  target_ = {};
  viewport()->update();
  QTreeWidget::dragLeaveEvent(event);
}

void LayerTree::dropEvent(QDropEvent* event) {
  if (!event->mimeData()->hasFormat(kMime)) return event->ignore();
  const Target target = targetAt(event->position().toPoint());
  target_ = {};
  event->setDropAction(Qt::MoveAction);
  event->accept();
  viewport()->update();
  edit::Ids layers;
  for (const QByteArray& id : event->mimeData()->data(kMime).split(' '))
    if (id.toInt() > 0) layers.push_back(id.toInt());
  held_ = false;
  if (target.valid) Q_EMIT dropped(layers, target.group, target.place);
}

void LayerTree::paintEvent(QPaintEvent* event) {
  QTreeWidget::paintEvent(event);
  if (!target_.valid || target_.mark.isNull()) return;
  QPainter p(viewport());
  p.setRenderHint(QPainter::Antialiasing);
  const Theme& t = Theme::now();
  p.setPen(QPen(t.persimmon, 2.5));
  if (target_.into) {
    p.drawRoundedRect(QRectF(target_.mark).adjusted(2, 4, -2, -4), 7, 7);
    return;
  }
  const double y = std::clamp<double>(target_.mark.top(), 2, viewport()->height() - 2);
  p.drawLine(QPointF(target_.mark.left() + 7, y), QPointF(target_.mark.right() - 3, y));
  p.setBrush(t.paper);
  p.drawEllipse(QPointF(target_.mark.left() + 4, y), 3, 3);
}

void LayerTree::mousePressEvent(QMouseEvent* event) {
  // Another button never begins a drag.
  if (event->button() != Qt::LeftButton) return event->accept();
  if (QTreeWidgetItem* item = itemAt(event->position().toPoint()); item && item->data(0, Qt::UserRole + 1).toBool()) {
    const QRect row = visualItemRect(item);
    if (QRect(row.left() - 2, row.top(), 16, row.height()).contains(event->position().toPoint())) {
      Q_EMIT foldAsked(idOf(item), item->isExpanded());
      return;
    }
  }
  held_ = true;
  QTreeWidget::mousePressEvent(event);
}

void LayerTree::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() == Qt::LeftButton && !held_) return;
  QTreeWidget::mouseMoveEvent(event);
}

void LayerTree::mouseReleaseEvent(QMouseEvent* event) {
  QTreeWidget::mouseReleaseEvent(event);
  if (event->button() != Qt::LeftButton) return;
  held_ = false;
  Q_EMIT released();
}

}  // namespace oa::app
