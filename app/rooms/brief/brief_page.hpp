#pragma once
/// \file The brief: what the part is for, how and of what it is made, what is asked of it.

#include "app/rooms/brief/own_material.hpp"
#include "app/rooms/brief/units_choice.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>

class QFormLayout;
class QVBoxLayout;

namespace gc::app {

class BriefPage : public QWidget {
    Q_OBJECT
  public:
    BriefPage(Session* session, QWidget* parent = nullptr);
    QTableWidget* targets() const { return m_targets; }
    QComboBox* asked() const { return m_add; }
    QComboBox* lengths() const { return m_length; }
    UnitsChoice* unitsChoice() const { return m_units; }
    QComboBox* materials() const { return m_material; }
    OwnMaterial* ownMaterial() const { return m_own; }

  Q_SIGNALS:
    void message(const QString& text);

  private:
    QFormLayout* makeForm();
    void makeTables(QVBoxLayout* layout);
    void connectFields();
    void connectTables();
    void valueTyped(int row, int column);
    void showTargets();
    QComboBox* bodyChoice(int row, const std::vector<std::string>& bodies);
    void refresh();
    void listMaterials();
    void commit(const std::function<void(Part&)>& change, const QString& what);

    Session* m_session;
    bool m_filling = false;
    QLineEdit *m_name, *m_fillLine;
    QComboBox *m_process, *m_material, *m_pull, *m_length, *m_add;
    QPushButton *m_remove, *m_addValue;
    QPlainTextEdit *m_purpose, *m_caution;
    QTableWidget *m_targets, *m_values;
    QLabel* m_density;
    UnitsChoice* m_units;
    OwnMaterial* m_own;
};

} // namespace gc::app
