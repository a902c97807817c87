#pragma once
/// \file After another unit of length was chosen: what figures without a unit mean now, as a choice in words.

#include "app/shell/session.hpp"

#include <QLabel>
#include <QPushButton>

#include <optional>

namespace gc::app {

class UnitsChoice : public QWidget {
    Q_OBJECT
  public:
    explicit UnitsChoice(Session* session, QWidget* parent = nullptr);
    /// Changes the unit; the part keeps its size. Where figures had no unit, it offers to read them anew.
    void change(const std::string& length);

  Q_SIGNALS:
    void previewAsked(const gc::Part& part); ///< show what would be
    void previewLeft();                      ///< the part itself again

  private:
    void offer();
    void showAnew();
    void keep();

    Session* m_session;
    QLabel* m_words;
    QPushButton *m_anew, *m_keep;
    std::optional<Part> m_other; ///< the part with its figures read anew
    QStringList m_said;
    QString m_before;
    bool m_shown = false, m_changing = false;
};

} // namespace gc::app
