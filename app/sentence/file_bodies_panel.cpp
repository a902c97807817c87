#include "app/sentence/file_bodies_panel.hpp"

#include "app/look/small_picture.hpp"
#include "app/look/theme.hpp"
#include "core/document/body_list.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gc::app {

namespace {
constexpr QSize kPicture(56, 42);
constexpr int kWide = 300, kRow = 52, kMargin = 12; // pixels

bool areAlike(const std::vector<FileBodyView>& a, const std::vector<FileBodyView>& b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [](const FileBodyView& x, const FileBodyView& y) {
                          return x.name == y.name && x.size == y.size && x.points.size() == y.points.size();
                      });
}
} // namespace

FileBodiesPanel::FileBodiesPanel(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("fileBodies"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 8, 8);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    m_title = new QLabel(this);
    m_title->setFont(textFont(13, QFont::DemiBold));
    head->addWidget(m_title, 1);
    auto* all = new QPushButton(tr("Take all"), this);
    all->setFont(textFont(12, QFont::DemiBold));
    all->setCursor(Qt::PointingHandCursor);
    connect(all, &QPushButton::clicked, this, &FileBodiesPanel::takeAll);
    head->addWidget(all);
    column->addLayout(head);
    m_list = new QListWidget(this);
    m_list->setAccessibleName(tr("Bodies in the file"));
    m_list->setIconSize(kPicture);
    m_list->setFont(textFont(12));
    m_list->setUniformItemSizes(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    m_list->setToolTip(tr("A click takes a body or leaves it; a double click takes it alone"));
    m_list->setSelectionMode(QAbstractItemView::NoSelection);
    m_list->viewport()->setCursor(Qt::PointingHandCursor);
    // All of a row is its box.
    connect(m_list, &QListWidget::itemPressed, this,
            [this](const QListWidgetItem* item) { m_pressed = item->checkState(); });
    connect(m_list, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (item->checkState() == m_pressed)
            item->setCheckState(m_pressed == Qt::Checked ? Qt::Unchecked : Qt::Checked);
    });
    connect(m_list, &QListWidget::itemChanged, this, &FileBodiesPanel::changed);
    connect(m_list, &QListWidget::itemDoubleClicked, this, &FileBodiesPanel::takeOnly);
    column->addWidget(m_list);
    parent->installEventFilter(this);
    hide();
}

void FileBodiesPanel::offer(const std::vector<FileBodyView>& bodies) {
    if (bodies.empty()) {
        m_bodies.clear();
        return hide();
    }
    m_filling = true;
    if (!areAlike(bodies, m_bodies) || m_list->count() == 0) fill(bodies);
    m_bodies = bodies;
    int some = 0;
    for (int i = 0; i < m_list->count(); ++i) {
        const bool taken = bodies[std::size_t(i)].taken;
        m_list->item(i)->setCheckState(taken ? Qt::Checked : Qt::Unchecked);
        some += taken;
    }
    m_filling = false;
    m_title->setText(some == m_list->count() ? tr("%n bodies in the file", nullptr, some)
                                             : tr("%1 of %2 bodies taken").arg(some).arg(m_list->count()));
    show();
    raise();
    place();
}

void FileBodiesPanel::fill(const std::vector<FileBodyView>& bodies) {
    m_list->clear();
    const QFontMetrics words(m_list->font());
    for (const FileBodyView& b : bodies) {
        auto* item =
            new QListWidgetItem(words.elidedText(b.name, Qt::ElideMiddle, kWide - kPicture.width() - 70) +
                                    QLatin1Char('\n') + b.size,
                                m_list);
        item->setToolTip(b.name);
        item->setIcon(QIcon(QPixmap::fromImage(
            smallPicture(b.points, b.triangles, kPicture, devicePixelRatioF(), theme().clay))));
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable);
        item->setSizeHint({0, kRow});
    }
}

void FileBodiesPanel::takeAll() {
    m_filling = true;
    for (int i = 0; i < m_list->count(); ++i) m_list->item(i)->setCheckState(Qt::Checked);
    m_filling = false;
    tell();
}

void FileBodiesPanel::takeOnly(QListWidgetItem* item) {
    m_filling = true;
    for (int i = 0; i < m_list->count(); ++i)
        m_list->item(i)->setCheckState(m_list->item(i) == item ? Qt::Checked : Qt::Unchecked);
    m_filling = false;
    tell();
}

void FileBodiesPanel::changed(QListWidgetItem* item) {
    if (m_filling) return;
    bool any = false;
    for (int i = 0; i < m_list->count(); ++i) any = any || m_list->item(i)->checkState() == Qt::Checked;
    if (any) return tell();
    // Without any there is nothing to import: the last one stays.
    m_filling = true;
    item->setCheckState(Qt::Checked);
    m_pressed = Qt::PartiallyChecked; // nor by the same click again
    m_filling = false;
}

void FileBodiesPanel::tell() {
    std::vector<std::string> names;
    for (int i = 0; i < m_list->count(); ++i)
        if (m_list->item(i)->checkState() == Qt::Checked)
            names.push_back(m_bodies[std::size_t(i)].name.toStdString());
    Q_EMIT taken(int(names.size()) == m_list->count() ? QString() : QString::fromStdString(nameList(names)));
}

/// At the left border of the stand, below its buttons and over its scale, as tall as its rows are or as there
/// is room: the strip of bodies stands at the right.
void FileBodiesPanel::place() {
    constexpr int kAbove = 56, kBelow = 68, kHead = 58;
    const int room = parentWidget()->height() - kAbove - kBelow;
    setGeometry(kMargin + 3, kAbove, kWide, std::min(m_list->count() * kRow + kHead + 8, room));
}

bool FileBodiesPanel::eventFilter(QObject* watched, QEvent* e) {
    if (e->type() == QEvent::Resize && isVisible()) place();
    return QFrame::eventFilter(watched, e);
}

} // namespace gc::app
