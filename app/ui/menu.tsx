import { useEffect, useRef, useState } from 'react';
import { Pressable, StyleSheet, View } from 'react-native';
import Ellipsis from 'lucide-react-native/icons/ellipsis';
import { focusOn } from './focus';
import { Words } from './text';
import { RADIUS, SPACE, useTheme } from './theme';

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
  const parts = useRef<(View | null)[]>([]);
  useEffect(() => {
    if (!open) return undefined;
    focusOn(parts.current[0] ?? null);
    const pressed = (event: PointerEvent) => {
      const inside = (box.current as unknown as HTMLElement | null)?.contains(event.target as Node);
      if (!inside) setOpen(false);
    };
    document.addEventListener('pointerdown', pressed);
    return () => document.removeEventListener('pointerdown', pressed);
  }, [open]);
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
        onPress={() => setOpen(!open)}
        style={styles.opener}
      >
        <View aria-hidden>
          <Ellipsis size={22} color={theme.ink} />
        </View>
      </Pressable>
      {open ? (
        <View
          role="menu"
          aria-label={`More to do with ${of}`}
          style={[styles.menu, { backgroundColor: theme.card, borderColor: theme.inkSoft }]}
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
        </View>
      ) : null}
    </View>
  );
};

const styles = StyleSheet.create({
  box: { position: 'relative' },
  opener: { width: 44, height: 44, alignItems: 'center', justifyContent: 'center' },
  menu: {
    position: 'absolute',
    top: 44,
    ...({ insetInlineEnd: 0 } as object),
    zIndex: 5,
    minWidth: 220,
    borderWidth: 1.5,
    borderRadius: RADIUS.medium,
    paddingVertical: SPACE.hair,
  },
  item: { minHeight: 44, justifyContent: 'center', paddingHorizontal: SPACE.large },
});
