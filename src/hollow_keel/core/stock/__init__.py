"""Stock: from strips to boards, joints, glue and a buying list."""
