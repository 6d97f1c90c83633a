"""What the interface answers, by topic. One topic does not know another: what two need is beside this folder."""
