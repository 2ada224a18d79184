import { useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { Pressable, StyleSheet, View } from 'react-native';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import { elementOf, focusOn } from './focus';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

/** Height of a line and width of the whole, px. */
const ITEM = 44;
const WIDTH = 230;
/** Moved by no more than this it stands still, px. */
const STILL_PX = 4;

export interface MenuItem {
  readonly label: string;
  readonly onPress: () => void;
  readonly grave?: boolean;
}

interface Props {
  /** What the things to do are about. */
  readonly of: string;
  readonly items: readonly MenuItem[];
}

/**
 * What else can be done with something, behind one press. Arrows move within it, Home and End go to its ends, Escape
 * and a press elsewhere close it; the focus goes back to its button (WAI-ARIA APG, menu button).
 */
export const Menu = ({ of, items }: Props) => {
  const theme = useTheme();
  const [open, setOpen] = useState(false);
  const opener = useRef<View>(null);
  const box = useRef<View>(null);
  const menu = useRef<View>(null);
  const parts = useRef<(View | null)[]>([]);
  const [corner, setCorner] = useState({ top: 0, right: 0 });
  /** Where its button stood when it was opened, px. */
  const stood = useRef(0);
  useEffect(() => {
    if (!open) return undefined;
    focusOn(parts.current[0] ?? null);
    const pressed = (event: PointerEvent) => {
      const inside = [box, menu].some((part) =>
        elementOf(part.current)?.contains(event.target as Node),
      );
      if (!inside) setOpen(false);
    };
    // It stands where its button was: when the page moves under it, it goes. Not by the last of a scroll that had brought it there.
    const moved = () => {
      const at = elementOf(opener.current)?.getBoundingClientRect();
      if (!at || Math.abs(at.top - stood.current) > STILL_PX) setOpen(false);
    };
    document.addEventListener('pointerdown', pressed);
    document.addEventListener('scroll', moved, true);
    return () => {
      document.removeEventListener('pointerdown', pressed);
      document.removeEventListener('scroll', moved, true);
    };
  }, [open]);
  /** Below its button, or above where there is no room below; over everything else in the page. */
  const show = () => {
    const at = elementOf(opener.current)!.getBoundingClientRect();
    stood.current = at.top;
    const height = items.length * ITEM + 10;
    const below = at.bottom + height <= innerHeight;
    setCorner({
      top: below ? at.bottom : Math.max(0, at.top - height),
      right: Math.max(0, Math.min(innerWidth - at.right, innerWidth - WIDTH)),
    });
    setOpen(true);
  };
  const close = () => {
    setOpen(false);
    focusOn(opener.current);
  };
  const onKeyDown = (event: { key: string; target: unknown; preventDefault(): void }) => {
    if (!open) return;
    const at = parts.current.indexOf(event.target as View);
    const last = items.length - 1;
    const to = {
      ArrowDown: at === last ? 0 : at + 1,
      ArrowUp: at <= 0 ? last : at - 1,
      Home: 0,
      End: last,
    }[event.key];
    if (to !== undefined) {
      event.preventDefault();
      focusOn(parts.current[to] ?? null);
    } else if (event.key === 'Escape') {
      event.preventDefault();
      close();
    } else if (event.key === 'Tab') setOpen(false);
  };
  return (
    <View ref={box} style={styles.box} {...({ onKeyDown } as object)}>
      <Pressable
        ref={opener}
        role="button"
        aria-label={`More to do with ${of}`}
        aria-expanded={open}
        {...({ 'aria-haspopup': 'menu' } as object)}
        onPress={() => (open ? close() : show())}
        style={styles.opener}
      >
        <View aria-hidden>
          <Ellipsis size={22} color={theme.ink} />
        </View>
      </Pressable>
      {open
        ? createPortal(
            <View
              ref={menu}
              role="menu"
              aria-label={`More to do with ${of}`}
              style={[
                styles.menu,
                corner,
                { backgroundColor: theme.card, borderColor: theme.inkSoft },
              ]}
            >
              {items.map((item, index) => (
                <Pressable
                  key={item.label}
                  ref={(part) => {
                    parts.current[index] = part;
                  }}
                  role="menuitem"
                  tabIndex={-1}
                  onPress={() => {
                    close();
                    item.onPress();
                  }}
                  style={styles.item}
                >
                  <Words tone={item.grave ? 'bad' : 'ink'}>{item.label}</Words>
                </Pressable>
              ))}
            </View>,
            document.body,
          )
        : null}
    </View>
  );
};

const styles = StyleSheet.create({
  box: { position: 'relative' },
  opener: { width: 44, height: 44, alignItems: 'center', justifyContent: 'center' },
  menu: {
    ...({ position: 'fixed' } as object),
    zIndex: 5,
    width: WIDTH,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
    paddingVertical: SPACE.hair,
  },
  item: { minHeight: ITEM, justifyContent: 'center', paddingHorizontal: SPACE.large },
});
