#pragma once
/// \file The one field that opens over the table: for a figure, for a place, for the length of a picture.

#include <QLineEdit>
#include <QObject>

#include <functional>

namespace gc::app {

class TableField : public QObject {
    Q_OBJECT
  public:
    /// What is done with what is typed.
    struct Use {
        std::function<bool(const QString&)> keep; ///< false: what was typed stays, to be mended
        std::function<void(bool kept)> closed;    ///< after the field has gone
        std::function<void()> next = {};          ///< Tab; may be empty
        bool keptByLeaving = false;               ///< by a click elsewhere
    };

    explicit TableField(QWidget* table);
    /// \param at its top left corner
    void open(const QString& text, QPointF at, int width, Use use);
    /// \return whether it is closed now
    bool close(bool keep);
    void leave() { close(m_use.keptByLeaving); }
    bool isOpen() const { return m_edit->isVisible(); }
    /// Puts text in place of what is marked, also when a click elsewhere has just taken the focus away.
    void insert(const QString& text);
    /// As wide as what stands in it.
    void grow();
    QLineEdit* edit() const { return m_edit; }

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    QLineEdit* m_edit;
    Use m_use;
    std::pair<int, int> m_marked; ///< where, and how much, when the focus went
};

} // namespace gc::app
