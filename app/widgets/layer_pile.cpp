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
    p->setPen(QPen(chosen ? t.persimmon : t.line, chosen ? 1.6 : 1));
    p->setBrush(chosen || hovered ? t.card : t.paper);
    p->drawRoundedRect(card, 7, 7);
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
    const QString icons[kSwitches] = {layer.visible ? QStringLiteral("eye") : QStringLiteral("eye-off"),
                                      {},
                                      layer.locked ? QStringLiteral("lock") : QStringLiteral("lock-open")};
    const bool always[kSwitches] = {!layer.visible, false, layer.locked};
    for (int which = 0; which < kSwitches; ++which) {
      if (!hovered && !chosen && !always[which]) continue;
      const QRectF box = switchRect(option.rect, which);
      p->fillRect(box, QColor(0, 0, 0, 165));
      if (which == kAlone) {
        p->setPen(Qt::white);
        p->setFont(uiFont(11, 700));
        p->drawText(box, Qt::AlignCenter, QStringLiteral("1"));
      } else {
        p->drawPixmap(QRectF(box.center() - QPointF(6.5, 6.5), QSizeF(13, 13)), iconPixmap(icons[which], 13, Qt::white, 2),
                      QRectF(0, 0, 26, 26));
      }
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
    // Queued: the edit makes the list anew, and the editor that brings the name still belongs to the old one.
    QMetaObject::invokeMethod(
        this,
        [this, layer, name] {
          if (name.empty() || layer < 0 || layer >= static_cast<int>(document_.scene().layers.size())) return refresh();
          document_.edit(tr("rename layer"), {}, [&](Scene& s) { s.layers[static_cast<std::size_t>(layer)].name = name; });
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
  connect(&document, &Document::currentLayerChanged, this, &LayerPile::refresh);
  refresh();
}

int LayerPile::layerOf(int row) const { return static_cast<int>(document_.scene().layers.size()) - 1 - row; }

void LayerPile::refresh() {
  refreshing_ = true;
  list_->clear();
  const auto& layers = document_.scene().layers;
  for (auto layer = layers.rbegin(); layer != layers.rend(); ++layer) {
    auto* item = new QListWidgetItem(text(layer->name), list_);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDragEnabled);
    item->setData(Qt::UserRole, static_cast<int>(layers.rend() - layer) - 1);
    item->setToolTip(text(layer->name) + QLatin1Char('\n') + subtitle(*layer));
  }
  list_->setCurrentRow(static_cast<int>(layers.size()) - 1 - document_.currentLayer());
  refreshing_ = false;
}

void LayerPile::rowsMoved() {
  // The list has been rearranged by a drag; the scene follows as one step of the history.
  std::vector<int> order;
  for (int row = list_->count() - 1; row >= 0; --row) order.push_back(list_->item(row)->data(Qt::UserRole).toInt());
  if (order.size() != document_.scene().layers.size()) return refresh();
  const int moved = document_.currentLayer();
  document_.edit(tr("move layer"), {}, [&](Scene& scene) {
    std::vector<Layer> sorted;
    sorted.reserve(order.size());
    for (const int i : order) sorted.push_back(scene.layers[static_cast<std::size_t>(i)]);
    scene.layers = std::move(sorted);
  });
  document_.setCurrentLayer(static_cast<int>(std::find(order.begin(), order.end(), moved) - order.begin()));
  refresh();
}

void LayerPile::duplicateLayer(int layer) {
  if (layer < 0 || layer >= static_cast<int>(document_.scene().layers.size()) || document_.scene().layers.size() >= kMaxLayers) return;
  document_.edit(tr("duplicate layer"), {}, [&](Scene& scene) {
    Layer copy = scene.layers[static_cast<std::size_t>(layer)];
    copy.name += tr(" copy").toStdString();
    scene.layers.insert(scene.layers.begin() + layer + 1, std::move(copy));
  });
  document_.setCurrentLayer(layer + 1);
}

void LayerPile::removeLayer(int layer) {
  if (layer < 0 || layer >= static_cast<int>(document_.scene().layers.size())) return;
  document_.edit(tr("delete layer"), {}, [&](Scene& scene) { scene.layers.erase(scene.layers.begin() + layer); });
}

void LayerPile::moveLayer(int from, int to) {
  const int last = static_cast<int>(document_.scene().layers.size()) - 1;
  to = std::clamp(to, 0, std::max(0, last));
  if (from == to || from < 0 || from > last) return;
  document_.edit(tr("move layer"), {}, [&](Scene& scene) {
    Layer moved = scene.layers[static_cast<std::size_t>(from)];
    scene.layers.erase(scene.layers.begin() + from);
    scene.layers.insert(scene.layers.begin() + to, std::move(moved));
  });
  document_.setCurrentLayer(to);
}

void LayerPile::setVisible(int layer, bool visible) {
  document_.edit(visible ? tr("show layer") : tr("hide layer"), {},
                 [&](Scene& s) { s.layers[static_cast<std::size_t>(layer)].visible = visible; });
}

void LayerPile::toggleSolo(int layer) {
  const auto& layers = document_.scene().layers;
  const bool alone = std::all_of(layers.begin(), layers.end(), [&](const Layer& l) { return l.visible == (&l - layers.data() == layer); });
  document_.edit(alone ? tr("show all layers") : tr("show one layer alone"), {}, [&](Scene& scene) {
    for (std::size_t i = 0; i < scene.layers.size(); ++i) scene.layers[i].visible = alone || static_cast<int>(i) == layer;
  });
}

void LayerPile::toggleLock(int layer) {
  const bool locked = !document_.scene().layers[static_cast<std::size_t>(layer)].locked;
  document_.edit(locked ? tr("lock layer") : tr("unlock layer"), {},
                 [&](Scene& s) { s.layers[static_cast<std::size_t>(layer)].locked = locked; });
}

void LayerPile::rename(int layer) { list_->editItem(list_->item(static_cast<int>(document_.scene().layers.size()) - 1 - layer)); }

void LayerPile::setThumbnail(int layer, const QImage& image) {
  thumbnails_[layer] = image;
  list_->viewport()->update();
}

void LayerPile::showMenu(const QPoint& place) {
  const QListWidgetItem* item = list_->itemAt(place);
  if (!item) return;
  const int layer = layerOf(list_->row(item));
  const Layer& shown = document_.scene().layers[static_cast<std::size_t>(layer)];
  QMenu menu(this);
  menu.addAction(tr("Rename"), this, [this, layer] { rename(layer); })->setShortcut(Qt::Key_F2);
  menu.addAction(tr("Duplicate"), this, [this, layer] { duplicateLayer(layer); })->setShortcut(QKeySequence(Qt::CTRL | Qt::Key_D));
  menu.addAction(shown.visible ? tr("Hide") : tr("Show"), this, [this, layer, &shown] { setVisible(layer, !shown.visible); });
  menu.addAction(tr("This one alone, or all"), this, [this, layer] { toggleSolo(layer); });
  menu.addAction(shown.locked ? tr("Unlock") : tr("Lock"), this, [this, layer] { toggleLock(layer); });
  menu.addSeparator();
  menu.addAction(tr("Forward"), this, [this, layer] { moveLayer(layer, layer + 1); })->setShortcut(QKeySequence(Qt::ALT | Qt::Key_Up));
  menu.addAction(tr("Back"), this, [this, layer] { moveLayer(layer, layer - 1); })->setShortcut(QKeySequence(Qt::ALT | Qt::Key_Down));
  menu.addSeparator();
  menu.addAction(tr("Delete"), this, [this, layer] { removeLayer(layer); })->setShortcut(Qt::Key_Delete);
  menu.exec(list_->viewport()->mapToGlobal(place));
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
  if (watched == list_ && event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const int layer = document_.currentLayer();
    if (key->key() == Qt::Key_Delete) return removeLayer(layer), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Up) return moveLayer(layer, layer + 1), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Down) return moveLayer(layer, layer - 1), true;
    if (key->key() == Qt::Key_F2) return rename(layer), true;
  }
  return QWidget::eventFilter(watched, event);
}

}  // namespace oa::app
