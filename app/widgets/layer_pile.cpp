#include "widgets/layer_pile.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QRegularExpression>
#include <QStyledItemDelegate>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "edit/layers.h"
#include "scene/plan.h"
#include "widgets/layer_tree.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kRowHeight = 60;
constexpr std::size_t kSearchFrom = 10;  // layers

// What the layer is, and how it blends where that is worth saying.
QString subtitle(const Layer& layer, bool missing) {
  QString words = text(layer.recipe.front().spec->title);
  if (missing) return QObject::tr("shows a layer that is gone");
  if (layer.isGroup()) words = QObject::tr("Group · %1").arg(layer.layers.size());
  if (layer.standIn) words = QObject::tr("Only for judging");
  if (layer.mask && layer.mask->on) words += QObject::tr(" · masked");
  if (layer.blend == BlendMode::Normal) return words;
  QString blend = text(blendName(layer.blend));
  blend.replace(QLatin1Char('-'), QLatin1Char(' '));
  return words + QStringLiteral(" · ") + blend;
}

// A link, of the source or the mask, that leads nowhere.
bool missing(const Document& document, Id id) {
  const Plan& plan = document.plan();
  const int index = plan.indexOf(id);
  if (index < 0) return false;
  const PlanLayer& own = plan.at(index);
  const auto links = [](const RecipeStep& step) { return step.spec->reads == SourceReads::Layer; };
  const bool mask = own.layer->mask && own.layer->mask->on && links(own.layer->mask->source);
  return (links(own.layer->recipe.front()) && own.target < 0) || (mask && own.maskTarget < 0);
}

// The switches of a layer, over the foot of its thumbnail: show, alone, lock.
enum Switch { kShow, kAlone, kLock, kSwitches };
constexpr int kFoldWidth = 14;
int pictureLeft(const QRect& row, bool group) { return row.left() + 8 + (group ? kFoldWidth - 4 : 0); }
QRect switchRect(const QRect& row, bool group, int which) { return {pictureLeft(row, group) + which * 18, row.center().y(), 18, 18}; }

// What tells copies apart stands at the end of their names.
QString shortened(const QString& name, const QFontMetrics& metrics, int width) {
  static const QRegularExpression numbered(QStringLiteral("^(.+)( \\d+)$"));
  const auto match = numbered.match(name);
  if (!match.hasMatch()) return metrics.elidedText(name, Qt::ElideRight, width);
  const QString number = match.captured(2);
  return metrics.elidedText(match.captured(1), Qt::ElideRight, width - metrics.horizontalAdvance(number)) + number;
}

}  // namespace

class LayerDelegate : public QStyledItemDelegate {
 public:
  explicit LayerDelegate(LayerPile& pile) : QStyledItemDelegate(&pile), pile_(pile) {}

  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {150, kRowHeight}; }

  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Document& document = pile_.document_;
    const Id id = index.data(Qt::UserRole).toInt();
    const Layer* found = document.layer(id);
    if (!found) return;
    const Layer& layer = *found;
    const Theme& t = Theme::now();
    const bool chosen = option.state & QStyle::State_Selected;
    const bool hovered = option.state & QStyle::State_MouseOver;
    const bool group = layer.isGroup();
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    p->setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF card = QRectF(option.rect).adjusted(1, 3, -1, -3);
    p->setPen(QPen(chosen ? t.persimmon : hovered ? t.muted : t.line, chosen ? 1.6 : 1));
    p->setBrush(chosen || hovered ? t.card : t.paper);
    p->drawRoundedRect(card, 7, 7);
    drawItemFocus(*p, option, card, 7);
    if (group) drawFold(*p, QPointF(card.left() + 8.5, card.center().y()), option.state & QStyle::State_Open);
    if (!layer.visible) p->setOpacity(0.45);
    const QRectF picture(pictureLeft(option.rect, group), card.center().y() - 18, 54, 36);
    drawPicture(*p, picture, pile_.thumbnails_.value(id), group);
    const double right = card.right() - 30;
    const QRectF words(picture.right() + 8, card.top() + 8, right - picture.right() - 9, 18);
    p->setPen(t.ink);
    p->setFont(uiFont(12, 600));
    p->drawText(words, Qt::AlignLeft | Qt::AlignVCenter, shortened(text(layer.name), p->fontMetrics(), static_cast<int>(words.width())));
    p->setFont(uiFont(11));
    p->setPen(t.muted);
    const QRectF below = words.translated(0, 18);
    p->drawText(below, Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(subtitle(layer, missing(document, id)), Qt::ElideRight, static_cast<int>(below.width())));
    p->setOpacity(1);
    const QString icons[kSwitches] = {layer.visible ? QStringLiteral("eye") : QStringLiteral("eye-off"), QStringLiteral("alone"),
                                      layer.locked ? QStringLiteral("lock") : QStringLiteral("lock-open")};
    const bool always[kSwitches] = {!layer.visible, edit::areAlone(document.scene(), {id}) && document.scene().layers.size() > 1,
                                    layer.locked};
    for (int which = 0; which < kSwitches; ++which) {
      if (!hovered && !chosen && !always[which]) continue;
      const QRectF box = switchRect(option.rect, group, which);
      p->fillRect(box, QColor(0, 0, 0, 165));
      p->drawPixmap(QRectF(box.center() - QPointF(6.5, 6.5), QSizeF(13, 13)), iconPixmap(icons[which], 13, Qt::white, 2),
                    QRectF(0, 0, 26, 26));
    }
    drawRing(*p, QPointF(card.right() - 17, card.center().y()), static_cast<std::int64_t>(index.data(Qt::UserRole + 2).toLongLong()));
    p->restore();
  }

 private:
  static void drawPicture(QPainter& p, const QRectF& box, const QImage& image, bool group) {
    const Theme& t = Theme::now();
    if (group) {
      // More than one lies there.
      p.setPen(QPen(t.line, 1));
      p.setBrush(t.paper);
      p.drawRoundedRect(box.translated(3, -4).adjusted(3, 0, 0, 0), 4, 4);
    }
    QPainterPath clip;
    clip.addRoundedRect(box, 4, 4);
    p.save();
    p.setClipPath(clip);
    p.fillRect(box, t.surround);
    if (!image.isNull()) {
      const QSizeF scaled = QSizeF(image.size()).scaled(box.size(), Qt::KeepAspectRatioByExpanding);
      p.drawImage(QRectF(box.center() - QPointF(scaled.width() / 2, scaled.height() / 2), scaled), image);
    }
    p.restore();
  }
  static void drawFold(QPainter& p, QPointF centre, bool open) {
    const Theme& t = Theme::now();
    QPainterPath arrow;
    if (open) {
      arrow.moveTo(centre + QPointF(-3.5, -2));
      arrow.lineTo(centre + QPointF(0, 2));
      arrow.lineTo(centre + QPointF(3.5, -2));
    } else {
      arrow.moveTo(centre + QPointF(-2, -3.5));
      arrow.lineTo(centre + QPointF(2, 0));
      arrow.lineTo(centre + QPointF(-2, 3.5));
    }
    p.setPen(QPen(t.ink, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.setBrush(Qt::NoBrush);
    p.drawPath(arrow);
  }
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
  search_ = new QLineEdit(this);
  search_->setObjectName(QStringLiteral("search"));
  search_->setPlaceholderText(tr("Find a layer"));
  search_->setAccessibleName(tr("Find a layer"));
  search_->setClearButtonEnabled(true);
  connect(search_, &QLineEdit::textChanged, this, &LayerPile::showFound);
  column->addWidget(search_);
  tree_ = new LayerTree(this);
  tree_->setAccessibleName(tr("Layers, the top one first"));
  tree_->setItemDelegate(new LayerDelegate(*this));
  tree_->setContextMenuPolicy(Qt::CustomContextMenu);
  tree_->viewport()->installEventFilter(this);
  tree_->installEventFilter(this);
  column->addWidget(tree_, 1);
  connect(tree_, &QTreeWidget::itemSelectionChanged, this, [this] {
    if (!refreshing_) document_.setSelection(tree_->selectedIds());
  });
  connect(tree_, &QTreeWidget::currentItemChanged, this, [this] {
    if (!refreshing_) document_.setSelection(tree_->selectedIds());
  });
  connect(tree_, &LayerTree::dropped, this, [this](const Ids& layers, Id group, int place) {
    document_.perform(tr("move layer"), [&](Scene& s) { return edit::moveLayers(s, layers, {group, place}); });
    document_.endGesture();
  });
  connect(tree_, &LayerTree::released, this, [this] {
    if (stale_) QMetaObject::invokeMethod(this, &LayerPile::refresh, Qt::QueuedConnection);
  });
  connect(tree_, &LayerTree::foldAsked, this, [this](Id layer, bool folded) {
    document_.performHere(folded ? tr("fold group") : tr("unfold group"), [&](Scene& s) { return edit::setLayerFolded(s, layer, folded); });
  });
  connect(tree_, &QTreeWidget::customContextMenuRequested, this, &LayerPile::showMenu);
  connect(tree_, &QTreeWidget::itemExpanded, this, [this](QTreeWidgetItem* item) {
    if (!refreshing_ && document_.layer(LayerTree::idOf(item))->folded) Q_EMIT tree_->foldAsked(LayerTree::idOf(item), false);
  });
  connect(tree_, &QTreeWidget::itemCollapsed, this, [this](QTreeWidgetItem* item) {
    if (!refreshing_ && !document_.layer(LayerTree::idOf(item))->folded) Q_EMIT tree_->foldAsked(LayerTree::idOf(item), true);
  });
  connect(tree_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item) {
    if (refreshing_) return;
    const Id layer = LayerTree::idOf(item);
    const std::string name = item->text(0).trimmed().left(100).toStdString();
    // Queued: the editor that brings the name is not done yet.
    QMetaObject::invokeMethod(
        this,
        [this, layer, name] {
          if (name.empty() || !document_.layer(layer)) return refresh();
          document_.performHere(tr("rename layer"), [&](Scene& s) { return edit::renameLayer(s, layer, name); });
        },
        Qt::QueuedConnection);
  });
  // Layers of another scene may have the numbers of those before.
  connect(&document, &Document::begun, this, [this] { thumbnails_.clear(); });
  connect(&document, &Document::changed, this, &LayerPile::refresh);
  connect(&document, &Document::currentLayerChanged, this, &LayerPile::showSelection);
  refresh();
}

void LayerPile::refresh() {
  // A list must not change under a press: the row that is being dragged would be gone.
  if (tree_->held()) {
    stale_ = true;
    return;
  }
  stale_ = false;
  refreshing_ = true;
  const Plan& plan = document_.plan();
  const auto fill = [&](auto& self, QTreeWidgetItem* parent, const std::vector<Layer>& layers) -> void {
    const auto count = [&] { return parent->childCount(); };
    while (count() > static_cast<int>(layers.size())) delete parent->takeChild(count() - 1);
    while (count() < static_cast<int>(layers.size())) {
      auto* item = new QTreeWidgetItem(parent);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDragEnabled | Qt::ItemIsDropEnabled);
    }
    for (int row = 0; row < count(); ++row) {
      const Layer& layer = layers[layers.size() - 1 - static_cast<std::size_t>(row)];
      QTreeWidgetItem* item = parent->child(row);
      item->setText(0, text(layer.name));
      item->setData(0, Qt::UserRole, layer.id);
      item->setData(0, Qt::UserRole + 1, layer.isGroup());
      const int index = plan.indexOf(layer.id);
      item->setData(0, Qt::UserRole + 2, QVariant::fromValue<qlonglong>(index < 0 ? 0 : plan.at(index).placedLaps));
      item->setToolTip(0, text(layer.name) + QLatin1Char('\n') + subtitle(layer, missing(document_, layer.id)));
      self(self, item, layer.layers);
      item->setExpanded(layer.isGroup() && !layer.folded);
    }
  };
  fill(fill, tree_->invisibleRootItem(), document_.scene().layers);
  search_->setVisible(layerCount(document_.scene()) > kSearchFrom);
  if (!search_->isVisibleTo(this)) search_->clear();
  refreshing_ = false;
  showSelection();
  showFound();
  tree_->viewport()->update();
}

void LayerPile::showSelection() {
  if (tree_->selectedIds() == document_.selection()) return;
  refreshing_ = true;
  tree_->clearSelection();
  for (const Id id : document_.selection()) {
    QTreeWidgetItem* item = tree_->itemOf(id);
    if (!item) continue;
    tree_->setCurrentItem(item, 0, QItemSelectionModel::NoUpdate);
    item->setSelected(true);
  }
  refreshing_ = false;
}

// While something is looked for, only what fits is shown, and the groups that it is in.
void LayerPile::showFound() {
  const QString wanted = search_->text().trimmed();
  const auto walk = [&](auto& self, QTreeWidgetItem* item) -> bool {
    bool inside = false;
    for (int i = 0; i < item->childCount(); ++i) inside = self(self, item->child(i)) || inside;
    if (item == tree_->invisibleRootItem()) return inside;
    const bool fits = wanted.isEmpty() || item->text(0).contains(wanted, Qt::CaseInsensitive) || inside;
    item->setHidden(!fits);
    refreshing_ = true;
    if (inside && !wanted.isEmpty()) item->setExpanded(true);
    refreshing_ = false;
    return fits;
  };
  walk(walk, tree_->invisibleRootItem());
}

Ids LayerPile::meant(Id layer) const {
  const Ids& selected = document_.selection();
  return std::find(selected.begin(), selected.end(), layer) != selected.end() ? selected : Ids{layer};
}

void LayerPile::duplicate() {
  document_.perform(tr("duplicate layer"),
                    [&](Scene& s) { return edit::duplicateLayers(s, document_.selection(), tr(" copy").toStdString()); });
}

void LayerPile::remove() {
  document_.perform(tr("delete layer"), [&](Scene& s) { return edit::removeLayers(s, document_.selection()); });
}

void LayerPile::nudge(int by) {
  document_.perform(
      tr("move layer"), [&](Scene& s) { return edit::nudgeLayers(s, document_.selection(), by); }, QStringLiteral("move layer"));
}

void LayerPile::setShown(bool shown) {
  document_.performHere(shown ? tr("show layer") : tr("hide layer"),
                        [&](Scene& s) { return edit::setLayersVisible(s, document_.selection(), shown); });
}

void LayerPile::toggleAlone() {
  const Ids layers = document_.selection();
  const bool alone = edit::areAlone(document_.scene(), layers);
  document_.performHere(alone ? tr("show all layers") : tr("show one layer alone"),
                        [&](Scene& s) { return edit::showLayersAlone(s, layers); });
}

void LayerPile::toggleLock() {
  if (!document_.layer()) return;
  const bool locked = !document_.layer()->locked;
  document_.performHere(locked ? tr("lock layer") : tr("unlock layer"),
                        [&](Scene& s) { return edit::setLayersLocked(s, document_.selection(), locked); });
}

void LayerPile::group() {
  document_.perform(tr("group layers"), [&](Scene& s) { return edit::groupLayers(s, document_.selection(), tr("Group").toStdString()); });
}

void LayerPile::ungroup() {
  document_.perform(tr("ungroup"), [&](Scene& s) { return edit::ungroupLayer(s, document_.currentLayer()); });
}

void LayerPile::addBelow() {
  const auto steps = allSteps();
  const auto below = std::find_if(steps.begin(), steps.end(), [](const StepSpec* s) { return s->reads == SourceReads::Below; });
  document_.perform(tr("layer of what lies below"), [&](Scene& s) -> Result<Ids> {
    const auto added = edit::addLayer(s, document_.currentLayer(), newLayer(**below, tr("What lies below").toStdString()));
    if (!added) return tl::unexpected(added.error());
    return Ids{*added};
  });
}

void LayerPile::addLinkedCopy() {
  const Layer* layer = document_.layer();
  if (!layer) return;
  const std::string name = tr("%1, linked").arg(text(layer->name)).toStdString();
  document_.perform(tr("linked copy"), [&](Scene& s) { return edit::addLinkedCopy(s, layer->id, name); });
}

void LayerPile::rename(Id layer) {
  if (QTreeWidgetItem* item = tree_->itemOf(layer)) tree_->editItem(item);
}

void LayerPile::setThumbnail(Id layer, const QImage& image) {
  thumbnails_[layer] = image;
  tree_->viewport()->update();
}

void LayerPile::showMenu(const QPoint& place) {
  QTreeWidgetItem* item = tree_->itemAt(place);
  // On one of several selected layers the menu is about all of them.
  if (item && !item->isSelected()) document_.setCurrentLayer(LayerTree::idOf(item));
  Q_EMIT menuWanted(tree_->viewport()->mapToGlobal(place), item != nullptr);
}

bool LayerPile::pressSwitch(const QPoint& place) {
  QTreeWidgetItem* item = tree_->itemAt(place);
  const Layer* layer = item ? document_.layer(LayerTree::idOf(item)) : nullptr;
  if (!layer) return false;
  const Ids layers = meant(layer->id);
  for (int which = 0; which < kSwitches; ++which) {
    if (!switchRect(tree_->visualItemRect(item), layer->isGroup(), which).contains(place)) continue;
    const bool shown = !layer->visible;
    const bool locked = !layer->locked;
    if (which == kShow)
      document_.performHere(shown ? tr("show layer") : tr("hide layer"),
                            [&](Scene& s) { return edit::setLayersVisible(s, layers, shown); });
    if (which == kAlone)
      document_.performHere(edit::areAlone(document_.scene(), layers) ? tr("show all layers") : tr("show one layer alone"),
                            [&](Scene& s) { return edit::showLayersAlone(s, layers); });
    if (which == kLock)
      document_.performHere(locked ? tr("lock layer") : tr("unlock layer"),
                            [&](Scene& s) { return edit::setLayersLocked(s, layers, locked); });
    return true;
  }
  return false;
}

bool LayerPile::eventFilter(QObject* watched, QEvent* event) {
  if (watched == tree_->viewport() && event->type() == QEvent::MouseButtonPress) {
    const auto* mouse = static_cast<QMouseEvent*>(event);
    if (mouse->button() == Qt::LeftButton && pressSwitch(mouse->position().toPoint())) return true;
  }
  if (watched == tree_ && event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Delete) return remove(), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Up) return nudge(1), true;
    if ((key->modifiers() & Qt::AltModifier) && key->key() == Qt::Key_Down) return nudge(-1), true;
  }
  return QWidget::eventFilter(watched, event);
}

}  // namespace oa::app
