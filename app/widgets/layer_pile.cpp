#include "widgets/layer_pile.h"

#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QStyledItemDelegate>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "edit/layers.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kRowHeight = 60;

// What the layer is, and how it blends where that is worth saying.
QString subtitle(const Layer& layer) {
  if (layer.blend == BlendMode::Normal) return text(layer.recipe.front().spec->title);
  QString blend = text(blendName(layer.blend));
  blend.replace(QLatin1Char('-'), QLatin1Char(' '));
  return text(layer.recipe.front().spec->title) + QStringLiteral(" · ") + blend;
}

// The switches of a layer, over the foot of its thumbnail: show, alone, lock.
enum Switch { kShow, kAlone, kLock, kSwitches };
QRect switchRect(const QRect& row, int which) { return {row.left() + 8 + which * 19, row.center().y(), 19, 18}; }

}  // namespace

class LayerDelegate : public QStyledItemDelegate {
 public:
  LayerDelegate(LayerPile& pile) : QStyledItemDelegate(&pile), pile_(pile) {}

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {150, kRowHeight}; }

  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const int number = pile_.layerOf(index.row());
    const auto& layers = pile_.document_.scene().layers;
    if (number < 0 || number >= static_cast<int>(layers.size())) return;
    const Layer& layer = layers[static_cast<std::size_t>(number)];
    const Theme& t = Theme::now();
    const bool chosen = option.state & QStyle::State_Selected;
    const bool hovered = option.state & QStyle::State_MouseOver;
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    p->setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF card = QRectF(option.rect).adjusted(1, 3, -1, -3);
    p->setPen(QPen(chosen ? t.persimmon : hovered ? t.muted : t.line, chosen ? 1.6 : 1));
    p->setBrush(chosen || hovered ? t.card : t.paper);
    p->drawRoundedRect(card, 7, 7);
    drawItemFocus(*p, option, card, 7);
    if (!layer.visible) p->setOpacity(0.45);
    const QRectF picture(card.left() + 7, card.center().y() - 18, 58, 36);
    QPainterPath clip;
    clip.addRoundedRect(picture, 4, 4);
    p->save();
    p->setClipPath(clip);
    p->fillRect(picture, t.surround);
    const QImage image = pile_.thumbnails_.value(number);
    if (!image.isNull()) {
      const QSizeF scaled = QSizeF(image.size()).scaled(picture.size(), Qt::KeepAspectRatioByExpanding);
      p->drawImage(QRectF(picture.center() - QPointF(scaled.width() / 2, scaled.height() / 2), scaled), image);
    }
    p->restore();
    const double right = card.right() - 32;
    const QRectF words(picture.right() + 9, card.top() + 8, right - picture.right() - 10, 18);
    p->setPen(t.ink);
    p->setFont(uiFont(12, 600));
    p->drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(text(layer.name), Qt::ElideRight, static_cast<int>(words.width())));
    p->setFont(uiFont(11));
    p->setPen(t.muted);
    const QRectF below = words.translated(0, 18);
    p->drawText(below, Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(subtitle(layer), Qt::ElideRight, static_cast<int>(below.width())));
    p->setOpacity(1);
    const QString icons[kSwitches] = {layer.visible ? QStringLiteral("eye") : QStringLiteral("eye-off"), QStringLiteral("alone"),
                                      layer.locked ? QStringLiteral("lock") : QStringLiteral("lock-open")};
    const bool always[kSwitches] = {!layer.visible, edit::isAlone(pile_.document_.scene(), number) && layers.size() > 1, layer.locked};
    for (int which = 0; which < kSwitches; ++which) {
      if (!hovered && !chosen && !always[which]) continue;
      const QRectF box = switchRect(option.rect, which);
      p->fillRect(box, QColor(0, 0, 0, 165));
      p->drawPixmap(QRectF(box.center() - QPointF(6.5, 6.5), QSizeF(13, 13)), iconPixmap(icons[which], 13, Qt::white, 2),
                    QRectF(0, 0, 26, 26));
    }
    drawRing(*p, QPointF(card.right() - 20, card.center().y()), commonLaps(layer));
    p->restore();
  }

 private:
  // The loop as a little circle, broken into as many arcs as the layer makes laps.
  static void drawRing(QPainter& p, QPointF centre, std::int64_t laps) {
    const Theme& t = Theme::now();
    const QRectF box(centre.x() - 9.5, centre.y() - 9.5, 19, 19);
    p.setBrush(Qt::NoBrush);
    if (laps == 0) {
      p.setPen(QPen(t.line, 2));
      p.drawEllipse(box);
      return;
    }
    p.setPen(QPen(t.lagoon, 3, Qt::SolidLine, Qt::FlatCap));
    const int arcs = static_cast<int>(std::min<std::int64_t>(laps, 12));
    const double gap = arcs == 1 ? 26 : 20;
    for (int i = 0; i < arcs; ++i) {
      const double start = 90 - 360.0 * i / arcs - gap / 2;
      p.drawArc(box, static_cast<int>(start * 16), static_cast<int>(-(360.0 / arcs - gap) * 16));
    }
    p.setPen(t.ink);
    p.setFont(uiFont(9, 700));
    p.drawText(box, Qt::AlignCenter, QString::number(laps));
  }

  LayerPile& pile_;
};

LayerPile::LayerPile(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(8, 8, 8, 8);
  column->setSpacing(4);
  auto* top = new QHBoxLayout();
  top->setContentsMargins(8, 0, 0, 0);
  auto* heading = new QLabel(tr("Layers"), this);
  heading->setObjectName(QStringLiteral("heading"));
  auto* add = new QToolButton(this);
  add->setObjectName(QStringLiteral("addLayer"));
  add->setIcon(icon(QStringLiteral("plus")));
  add->setToolTip(tr("Add a layer"));
  add->setAccessibleName(tr("Add a layer"));
  connect(add, &QToolButton::clicked, this, &LayerPile::layerWanted);
  top->addWidget(heading, 1);
  top->addWidget(add);
  column->addLayout(top);
  list_ = new QListWidget(this);
  list_->setAccessibleName(tr("Layers, the top one first"));
  list_->setItemDelegate(new LayerDelegate(*this));
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setDefaultDropAction(Qt::MoveAction);
  list_->setSelectionMode(QAbstractItemView::SingleSelection);
  list_->setMouseTracking(true);
  list_->setContextMenuPolicy(Qt::CustomContextMenu);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->viewport()->installEventFilter(this);
  list_->installEventFilter(this);
  column->addWidget(list_, 1);
  connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (!refreshing_ && row >= 0) document_.setCurrentLayer(layerOf(row));
  });
  connect(list_->model(), &QAbstractItemModel::rowsMoved, this,
          [this] { QMetaObject::invokeMethod(this, &LayerPile::rowsMoved, Qt::QueuedConnection); });
  connect(list_, &QListWidget::customContextMenuRequested, this, &LayerPile::showMenu);
  connect(list_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
    if (refreshing_) return;
    const int layer = layerOf(list_->row(item));
    const std::string name = item->text().trimmed().left(100).toStdString();
    // Queued: the editor that brings the name is not done yet.
    QMetaObject::invokeMethod(
        this,
        [this, layer, name] {
          if (name.empty() || layer < 0 || layer >= static_cast<int>(document_.scene().layers.size())) return refresh();
          document_.performHere(tr("rename layer"), [&](Scene& s) { return edit::renameLayer(s, layer, name); });
        },
        Qt::QueuedConnection);
  });
  connect(&document, &Document::changed, this, [this](bool structure) {
    if (structure) return refresh();
    // The pile shows little that a value changes: how a layer blends, whether it shows, how many laps it makes.
    std::vector<std::tuple<BlendMode, bool, bool, std::int64_t>> looks;
    for (const Layer& layer : document_.scene().layers) looks.emplace_back(layer.blend, layer.visible, layer.locked, commonLaps(layer));
    if (looks == looks_) return;
    looks_ = std::move(looks);
    list_->viewport()->update();
  });
  connect(&document, &Document::currentLayerChanged, this, [this] {
    const int row = static_cast<int>(document_.scene().layers.size()) - 1 - document_.currentLayer();
    if (row == list_->currentRow()) return;
    refreshing_ = true;
    list_->setCurrentRow(row);
    refreshing_ = false;
  });
  refresh();
}

int LayerPile::layerOf(int row) const { return static_cast<int>(document_.scene().layers.size()) - 1 - row; }

void LayerPile::refresh() {
  // A list must not change under a press: the row that is being dragged would be gone.
  if (pressed_) {
    stale_ = true;
    return;
  }
  stale_ = false;
  refreshing_ = true;
  const auto& layers = document_.scene().layers;
  const int count = static_cast<int>(layers.size());
  while (list_->count() > count) delete list_->takeItem(list_->count() - 1);
  while (list_->count() < count) {
    auto* item = new QListWidgetItem(list_);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDragEnabled);
  }
  for (int row = 0; row < count; ++row) {
    QListWidgetItem* item = list_->item(row);
    const Layer& layer = layers[static_cast<std::size_t>(layerOf(row))];
    item->setText(text(layer.name));
    item->setData(Qt::UserRole, layerOf(row));
    item->setToolTip(text(layer.name) + QLatin1Char('\n') + subtitle(layer));
  }
  list_->setCurrentRow(count - 1 - document_.currentLayer());
  refreshing_ = false;
  list_->viewport()->update();
}

void LayerPile::rowsMoved() {
  // The list has been rearranged by a drag; the scene follows as one step of the history.
  pressed_ = false;
  // The row that is dragged is the current one.
  if (const QListWidgetItem* item = list_->currentItem()) {
    const int from = item->data(Qt::UserRole).toInt();
    const int to = layerOf(list_->row(item));
    if (from != to) moveLayer(from, to);
  }
  document_.endGesture();
  refresh();
}

void LayerPile::duplicateLayer(int layer) {
  document_.perform(tr("duplicate layer"), [&](Scene& s) { return edit::duplicateLayer(s, layer, tr(" copy").toStdString()); });
}

void LayerPile::removeLayer(int layer) {
  document_.perform(tr("delete layer"), [&](Scene& s) { return edit::removeLayer(s, layer); });
}

void LayerPile::moveLayer(int from, int to) {
  document_.perform(
      tr("move layer"), [&](Scene& s) { return edit::moveLayer(s, from, to); }, QStringLiteral("move layer"));
}

void LayerPile::setVisible(int layer, bool visible) {
  document_.performHere(visible ? tr("show layer") : tr("hide layer"), [&](Scene& s) { return edit::setLayerVisible(s, layer, visible); });
}

void LayerPile::toggleSolo(int layer) {
  const bool alone = edit::isAlone(document_.scene(), layer);
  document_.performHere(alone ? tr("show all layers") : tr("show one layer alone"),
                        [&](Scene& s) { return edit::showLayerAlone(s, layer); });
}

void LayerPile::toggleLock(int layer) {
  if (layer < 0 || layer >= static_cast<int>(document_.scene().layers.size())) return;
  const bool locked = !document_.scene().layers[static_cast<std::size_t>(layer)].locked;
  document_.performHere(locked ? tr("lock layer") : tr("unlock layer"), [&](Scene& s) { return edit::setLayerLocked(s, layer, locked); });
}

void LayerPile::rename(int layer) { list_->editItem(list_->item(static_cast<int>(document_.scene().layers.size()) - 1 - layer)); }

void LayerPile::setThumbnail(int layer, const QImage& image) {
  thumbnails_[layer] = image;
  list_->viewport()->update();
}

void LayerPile::showMenu(const QPoint& place) {
  QListWidgetItem* item = list_->itemAt(place);
  if (item) document_.setCurrentLayer(layerOf(list_->row(item)));
  Q_EMIT menuWanted(list_->viewport()->mapToGlobal(place), item != nullptr);
}

bool LayerPile::eventFilter(QObject* watched, QEvent* event) {
  if (watched == list_->viewport() && event->type() == QEvent::MouseButtonPress) {
    const auto* mouse = static_cast<QMouseEvent*>(event);
    if (QListWidgetItem* item = list_->itemAt(mouse->position().toPoint()); item && mouse->button() == Qt::LeftButton) {
      const int layer = layerOf(list_->row(item));
      for (int which = 0; which < kSwitches; ++which) {
        if (!switchRect(list_->visualItemRect(item), which).contains(mouse->position().toPoint())) continue;
        if (which == kShow) setVisible(layer, !document_.scene().layers[static_cast<std::size_t>(layer)].visible);
        if (which == kAlone) toggleSolo(layer);
        if (which == kLock) toggleLock(layer);
        list_->viewport()->update();
        return true;
      }
    }
  }
  if (watched == list_->viewport()) {
    if (event->type() == QEvent::MouseButtonPress && static_cast<QMouseEvent*>(event)->button() == Qt::LeftButton) pressed_ = true;
    if (event->type() == QEvent::MouseButtonPress && static_cast<QMouseEvent*>(event)->button() != Qt::LeftButton) {
      // Another button never begins a drag.
      if (static_cast<QMouseEvent*>(event)->button() == Qt::RightButton) return false;
      return true;
    }
    if (event->type() == QEvent::MouseButtonRelease || event->type() == QEvent::Drop || event->type() == QEvent::Leave) {
      pressed_ = false;
      if (stale_) QMetaObject::invokeMethod(this, &LayerPile::refresh, Qt::QueuedConnection);
    }
  }
  if (watched == list_ && event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const int layer = document_.currentLayer();
    if (key->key() == Qt::Key_Delete) return removeLayer(layer), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Up) return moveLayer(layer, layer + 1), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Down) return moveLayer(layer, layer - 1), true;
  }
  return QWidget::eventFilter(watched, event);
}

}  // namespace oa::app
