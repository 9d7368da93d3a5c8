"""The key under which a window sent a save, so that the same save sent again is known."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("revisions", sa.Column("save_key", sa.Uuid()))
    op.create_index("revisions_save_key", "revisions", ["design_id", "save_key"], unique=True)


def downgrade() -> None:
    op.drop_index("revisions_save_key", "revisions")
    op.drop_column("revisions", "save_key")
