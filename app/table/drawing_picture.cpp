#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "app/look/words.hpp"

#include <QPainter>

#include <algorithm>
#include <cmath>

// The picture that is drawn over: shown, set to scale by two places and a length, moved, made paler.

namespace gc::app {

void DrawingTable::setPicture(const QImage& picture) {
    m_picture = picture;
    update();
}

void DrawingTable::paintPicture(QPainter& p) const {
    const auto& placed = m_model->drawing().picture;
    if (!placed) return;
    const QPointF low = toScreen(placed->at);
    const QRectF box(low.x(), low.y() - placed->height * m_scale, placed->width * m_scale,
                     placed->height * m_scale);
    if (m_picture.isNull()) { // it cannot be read: its place is shown all the same
        p.setPen(QPen(theme().watch, 1.4, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box);
        p.setFont(textFont(12, QFont::DemiBold));
        p.drawText(box, Qt::AlignCenter | Qt::TextWordWrap,
                   tr("The picture \"%1\" cannot be read.").arg(QString::fromStdString(placed->file)));
        return;
    }
    p.save();
    p.setOpacity(placed->strength);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(box, m_picture);
    p.restore();
}

/// The places clicked so far.
void DrawingTable::paintPictureDraft(QPainter& p) const {
    if (m_tool != Tool::Picture || m_pictureClicks.empty()) return;
    const QPointF a = toScreen(m_pictureClicks[0]);
    const QPointF b = m_pictureClicks.size() > 1 ? toScreen(m_pictureClicks[1]) : m_pointer;
    p.setPen(QPen(theme().accent, 1.8));
    p.drawLine(a, b);
    for (const QPointF& q : {a, b}) {
        p.drawLine(q - QPointF(7, 0), q + QPointF(7, 0));
        p.drawLine(q - QPointF(0, 7), q + QPointF(0, 7));
    }
}

void DrawingTable::clickPicture(QPointF pointer) {
    if (!m_model->drawing().picture) return Q_EMIT pictureAsked();
    m_pictureClicks.push_back(toDrawing(pointer));
    if (m_pictureClicks.size() < 2) {
        Q_EMIT message(way() == 0 ? tr("Now the other end of something whose length you know.")
                                  : tr("Now where that place of the picture shall lie."));
        return update();
    }
    if (way() == 1) {
        const Vec2 by = m_pictureClicks[1] - m_pictureClicks[0];
        m_pictureClicks.clear();
        return m_model->edit(tr("picture moved"), [&](Drawing& d) { d.picture->at = d.picture->at + by; });
    }
    if (length(m_pictureClicks[1] - m_pictureClicks[0]) < 1e-6) {
        m_pictureClicks.pop_back();
        return Q_EMIT message(tr("■ The two places are one. Click the second further away."));
    }
    m_typing = Typing::Scale;
    m_editor->setText({});
    m_editor->setPlaceholderText(tr("length, 60 mm"));
    m_editor->resize(150, 28);
    m_editor->move((pointer + QPointF(16, 16)).toPoint());
    m_editor->show();
    m_editor->setFocus();
    Q_EMIT message(tr("How long is that? Type it with its unit; Enter sets the picture to scale."));
}

/// The two places come to lie as far apart as was typed; the first stays where it is.
void DrawingTable::closeScaleEditor(bool keep) {
    if (keep) {
        const auto wanted = m_model->lengthFrom(m_editor->text());
        if (!wanted) {
            Q_EMIT message(QStringLiteral("■ ") + inWords(wanted.error().sentence));
            return;
        }
        const Vec2 fixed = m_pictureClicks[0];
        const double factor = *wanted / length(m_pictureClicks[1] - fixed);
        m_model->edit(tr("picture to scale"), [&](Drawing& d) {
            d.picture->at = fixed + (d.picture->at - fixed) * factor;
            d.picture->width *= factor;
            d.picture->height *= factor;
            d.sized = true; // what is drawn over it has its real size
        });
        Q_EMIT message(tr("✓ The picture is true to size now: draw over it."));
    }
    m_typing = Typing::Nothing;
    m_editor->hide();
    m_editor->setPlaceholderText({});
    m_pictureClicks.clear();
    setFocus();
    if (keep) fit();
    update();
}

void DrawingTable::pictureChips() {
    const auto& placed = m_model->drawing().picture;
    if (!placed) {
        chip(tr("Choose a picture …"), 0, [this] { Q_EMIT pictureAsked(); });
        return;
    }
    const auto strength = [this](double by) {
        m_model->edit(tr("picture strength"), [by](Drawing& d) {
            d.picture->strength = std::clamp(std::round((d.picture->strength + by) * 10) / 10, 0.1, 1.0);
        });
    };
    chip(tr("paler"), 1, [strength] { strength(-0.1); });
    chip(
        tr("%1 % strong").arg(std::lround(placed->strength * 100)), 1, [] {}, true);
    chip(tr("stronger"), 1, [strength] { strength(0.1); });
    chip(tr("Another picture …"), 1, [this] { Q_EMIT pictureAsked(); });
    chip(tr("Take it away"), 1,
         [this] { m_model->edit(tr("picture taken away"), [](Drawing& d) { d.picture.reset(); }); });
}

} // namespace gc::app
